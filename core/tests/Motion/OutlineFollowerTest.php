<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Motion;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Motion\OutlineFollower;
use Cossel\Core\Motion\State;
use Cossel\Core\Motion\TooLittleTexture;
use Cossel\Core\Outline\Contour;
use Cossel\Core\Outline\Pose;
use Cossel\Core\Recipe\Path;
use Cossel\Core\Recipe\PathPoint;
use PHPUnit\Framework\TestCase;

final class OutlineFollowerTest extends TestCase
{
    /** A soft thing's edge: radius by angle, growing on one side only. */
    private static function radius(int $f, float $angle): float
    {
        return 34 + 5 * cos(2 * $angle) + 0.9 * $f * max(0.0, cos($angle)) ** 2;
    }

    /** @return array{float, float} */
    private static function middle(int $f): array
    {
        return [110 + 1.6 * $f, 80 + 0.7 * $f];
    }

    private static function blob(): Painted
    {
        return new Painted(static function (int $f, float $x, float $y): array {
            [$cx, $cy] = self::middle($f);
            $inside = hypot($x - $cx, $y - $cy) < self::radius($f, atan2($y - $cy, $x - $cx));
            $grain = 0.01 * sin($x * 1.7 + $y * 2.9);

            // As bright inside as outside: only the colour tells.
            return $inside ? [0.62 + $grain, 0.35 + $grain, 0.36] : [0.45 + $grain, 0.40 + $grain, 0.36];
        });
    }

    private static function path(): Path
    {
        [$cx, $cy] = self::middle(0);
        $at = static fn(float $angle): array => [($cx + self::radius(0, $angle) * cos($angle)) / 160, ($cy + self::radius(0, $angle) * sin($angle)) / 160];
        $points = [];
        for ($k = 0; $k < 10; ++$k) {
            [$x, $y] = $at(2 * M_PI * $k / 10);
            [$px, $py] = $at(2 * M_PI * ($k - 1) / 10);
            [$qx, $qy] = $at(2 * M_PI * ($k + 1) / 10);
            $points[] = new PathPoint($x, $y, -($qx - $px) / 6, -($qy - $py) / 6, ($qx - $px) / 6, ($qy - $py) / 6);
        }

        return new Path('s', $points);
    }

    public function test_each_part_of_the_edge_goes_its_own_way(): void
    {
        foreach (OutlineFollower::from(self::blob(), 0, self::path(), Pose::still())->to(10) as $f => $step) {
            self::assertContains($step->state, [State::Set, State::Followed]);
            [$cx, $cy] = self::middle($f);
            $off = 0.0;
            $points = $step->points ?? [];
            foreach ($points as $i => $p) {
                foreach ([0.0, 0.5] as $t) {
                    [$x, $y] = Contour::on($p, $points[($i + 1) % count($points)], $t);
                    $off += abs(hypot($x * 160 - $cx, $y * 160 - $cy) - self::radius($f, atan2($y * 160 - $cy, $x * 160 - $cx)));
                }
            }
            self::assertLessThan(0.8, $off / (2 * count($points)), "frame {$f}");
        }
    }

    public function test_backwards_and_from_where_a_motion_has_taken_it(): void
    {
        $steps = iterator_to_array(OutlineFollower::from(self::blob(), 0, self::path(), Pose::still())->to(6));
        $path = new Path('s', $steps[6]->points ?? []);
        $back = iterator_to_array(OutlineFollower::from(self::blob(), 6, $path, Pose::still())->to(0));
        foreach (self::path()->points as $i => $p) {
            $q = ($back[0]->points ?? [])[$i];
            self::assertLessThan(4.0, 160 * hypot($p->x - $q->x, $p->y - $q->y));
        }
    }

    public function test_where_nothing_differs_across_the_edge_it_says_so(): void
    {
        $this->expectException(TooLittleTexture::class);
        $this->expectExceptionMessage('Nothing differs across the outline');
        OutlineFollower::from(new Painted(static fn(): array => [0.5, 0.5, 0.5]), 0, self::path(), Pose::still());
    }

    /**
     * The blob going right by so many pixels a frame, behind something plain on some frames.
     *
     * @param list<int> $frames
     */
    private static function covered(float $speed, array $frames): Painted
    {
        return new Painted(static function (int $f, float $x, float $y) use ($speed, $frames): array {
            $grain = 0.01 * sin($x * 1.7 + $y * 2.9);
            if (in_array($f, $frames, true)) {
                return [0.5 + $grain, 0.42 + $grain, 0.36];
            }
            $inside = hypot($x - 70 - $speed * $f, $y - 80) < self::radius(0, atan2($y - 80, $x - 70 - $speed * $f));

            return $inside ? [0.62 + $grain, 0.35 + $grain, 0.36] : [0.45 + $grain, 0.40 + $grain, 0.36];
        }, 320, 160);
    }

    private static function start(): Path
    {
        return new Path('s', array_map(static fn(PathPoint $p): PathPoint => $p->moved(Matrix::move(-40 / 160, 0)), self::path()->points));
    }

    public function test_what_was_covered_for_some_frames_is_bridged_and_found_where_it_has_gone(): void
    {
        foreach ([2.0, 6.0] as $speed) {
            $steps = iterator_to_array(OutlineFollower::from(self::covered($speed, [4, 5, 6, 7, 8]), 0, self::start(), Pose::still())->to(12));
            foreach (range(0, 12) as $f) {
                self::assertSame($f === 0 ? State::Set : ($f > 3 && $f < 9 ? State::Bridged : State::Followed), $steps[$f]->state, "frame {$f} at {$speed}");
                foreach ($steps[$f]->points ?? [] as $i => $p) {
                    $at = self::start()->points[$i];
                    self::assertLessThan(2.5, 160 * hypot($p->x - $at->x - $speed * $f / 160, $p->y - $at->y), "frame {$f} at {$speed}, point {$i}");
                }
                [$x] = $steps[$f]->matrix->apply(70 / 160, 0.5);
                self::assertEqualsWithDelta(70 + $speed * $f, 160 * $x, 1.5);
                self::assertSame($f > 3 && $f < 9, $steps[$f]->confidence === 0.0);
            }
        }
    }

    public function test_what_never_comes_back_is_lost_where_it_was_seen_last(): void
    {
        $steps = iterator_to_array(OutlineFollower::from(self::covered(2.0, range(4, 14)), 0, self::start(), Pose::still())->to(14));
        foreach (range(4, 14) as $f) {
            self::assertSame([State::Lost, 0.0], [$steps[$f]->state, $steps[$f]->confidence], "frame {$f}");
            self::assertEquals($steps[3]->points, $steps[$f]->points);
        }
    }
}
