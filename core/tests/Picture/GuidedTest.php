<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Picture;

use Cossel\Core\Geometry\Linear;
use Cossel\Core\Picture\Guided;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use PHPUnit\Framework\TestCase;

/** A coarse matte brought to the edges of a picture. */
final class GuidedTest extends TestCase
{
    /** @param \Closure(int, int): array{float, float, float} $paint */
    private static function picture(Rect $rect, \Closure $paint): Planes
    {
        $planes = Planes::filled($rect, 0.0, 0.0, 0.0);
        for ($y = 0, $i = 0; $y < $rect->height; ++$y) {
            for ($x = 0; $x < $rect->width; ++$x, ++$i) {
                [$planes->r[$i], $planes->g[$i], $planes->b[$i]] = $paint($x, $y);
            }
        }

        return $planes;
    }

    /** @param list<float> $p */
    private static function guided(Planes $picture, array $p): Guided
    {
        $window = static function (Rect $rect) use ($picture): Planes {
            $from = $rect->y * $rect->width;
            $cut = static fn(array $v): array => array_slice($v, $from, $rect->count());

            return new Planes($rect, $cut($picture->r), $cut($picture->g), $cut($picture->b));
        };

        return new Guided($picture->rect, $window, static fn(): array => $p);
    }

    public function test_it_is_the_mean_of_the_least_squares_of_all_neighbourhoods(): void
    {
        $rect = Rect::of(0, 0, 26, 18);
        mt_srand(4);
        $chance = static fn(): float => mt_rand() / mt_getrandmax();
        $picture = self::picture($rect, static fn(): array => [$chance(), $chance(), $chance()]);
        $p = array_map(static fn(int $i): float => $i % 26 < 13 ? 0.1 + 0.2 * $chance() : 0.9 - 0.2 * $chance(), range(0, $rect->count() - 1));
        $found = self::guided($picture, $p)->matte($picture)->v;

        // By its definition, neighbourhood by neighbourhood; beyond the edges the picture goes on as it ends.
        $at = static fn(int $x, int $y): int => max(0, min(17, $y)) * 26 + max(0, min(25, $x));
        $round = static function (int $x, int $y) use ($at): array {
            $all = [];
            for ($dy = -5; $dy <= 5; ++$dy) {
                for ($dx = -5; $dx <= 5; ++$dx) {
                    $all[] = $at($x + $dx, $y + $dy);
                }
            }

            return $all;
        };
        $colour = static fn(int $i): array => [$picture->r[$i], $picture->g[$i], $picture->b[$i]];
        $mixture = [];
        for ($i = 0; $i < $rect->count(); ++$i) {
            $all = $round($i % 26, intdiv($i, 26));
            $n = count($all);
            $mean = [0.0, 0.0, 0.0];
            $of = 0.0;
            foreach ($all as $k) {
                $of += $p[$k] / $n;
                foreach ($colour($k) as $c => $v) {
                    $mean[$c] += $v / $n;
                }
            }
            $a = [[0.0005, 0.0, 0.0], [0.0, 0.0005, 0.0], [0.0, 0.0, 0.0005]];
            $b = [0.0, 0.0, 0.0];
            foreach ($all as $k) {
                $now = $colour($k);
                foreach ([0, 1, 2] as $r) {
                    $b[$r] += ($now[$r] - $mean[$r]) * ($p[$k] - $of) / $n;
                    foreach ([0, 1, 2] as $c) {
                        $a[$r][$c] += ($now[$r] - $mean[$r]) * ($now[$c] - $mean[$c]) / $n;
                    }
                }
            }
            $w = Linear::solve($a, $b) ?? [0.0, 0.0, 0.0];
            $mixture[] = [...$w, $of - $w[0] * $mean[0] - $w[1] * $mean[1] - $w[2] * $mean[2]];
        }
        foreach ([0, 5, 13 + 26 * 9, 12 + 26 * 4, 467] as $i) {
            $sum = 0.0;
            $all = $round($i % 26, intdiv($i, 26));
            foreach ($all as $k) {
                [$r, $g, $b] = $colour($i);
                $sum += ($mixture[$k][0] * $r + $mixture[$k][1] * $g + $mixture[$k][2] * $b + $mixture[$k][3]) / count($all);
            }
            self::assertEqualsWithDelta(max(0.0, min(1.0, ($sum - 0.05) / 0.9)), $found[$i], 1e-9, "pixel {$i}");
        }
    }

    public function test_the_edge_of_colours_is_found_though_the_coarse_one_lies_beside_it(): void
    {
        // Blocks of two pixels; both sides are as bright as each other.
        $rect = Rect::of(0, 0, 400, 360);
        $picture = self::picture($rect, static fn(int $x, int $y): array => hypot($x - 200, $y - 180) < 110 ? [0.6, 0.35, 0.3] : [0.3, 0.44, 0.3]);
        $coarse = static function (int $i): float {
            return hypot($i % 200 * 2 + 1 - 201, intdiv($i, 200) * 2 + 1 - 180) < 108 ? 1.0 : 0.0;
        };
        $v = self::guided($picture, array_map($coarse, range(0, 200 * 180 - 1)))->matte($picture)->v;
        $wrong = 0;
        foreach ($v as $i => $m) {
            $wrong += ($m > 0.5) !== (hypot($i % 400 - 200, intdiv($i, 400) - 180) < 110) ? 1 : 0;
        }
        // The coarse one is wrong on 1,400.
        self::assertLessThan(60, $wrong);
        self::assertSame(0.0, $v[0]);
        self::assertSame(1.0, $v[180 * 400 + 200]);
    }
}
