<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Touch;

use Cossel\Core\Geometry\Extent;
use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Outline\EllipseMatte;
use Cossel\Core\Picture\AreaPicture;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\FrameFormat;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Tests\Chance;
use Cossel\Core\Touch\Conceal;
use Cossel\Core\Touch\Site;
use Cossel\Core\Touch\Survey;
use PHPUnit\Framework\TestCase;

/** Covering spots of all sizes. */
final class ConcealTest extends TestCase
{
    /**
     * A picture with a spot, covered.
     *
     * @param callable(float, float): float $paint what the picture is without the spot, x and y from the spot's middle in
     *                                            its radii
     * @param array<string, float>          $values
     *
     * @return array{Planes, Planes, Grey} as it should be and as it is, and the matte
     */
    private static function covered(int $radius, callable $paint, array $values, int $width, int $height, int $cx, int $cy): array
    {
        $rect = Rect::of(0, 0, $width, $height);
        $v = [];
        for ($y = 0; $y < $height; ++$y) {
            for ($x = 0; $x < $width; ++$x) {
                $v[] = $paint(($x + 0.5 - $cx) / $radius, ($y + 0.5 - $cy) / $radius);
            }
        }
        $wanted = new Planes($rect, $v, array_map(static fn(float $x): float => 0.9 * $x, $v), array_map(static fn(float $x): float => 0.8 * $x + 0.1, $v));
        $placed = EllipseMatte::on(new Ellipse('s', [$cx / $height, $cy / $height], [$radius / $height, $radius / $height], featherOut: 2 / $height), Matrix::identity(), $height);
        $matte = $placed->matte($placed->bounds()->intersect($rect));
        $planes = new Planes($rect, $wanted->r, $wanted->g, $wanted->b);
        foreach ($matte->rect->rowsIn($rect) as $j => $i) {
            for ($x = 0; $x < $matte->rect->width; ++$x) {
                // What lies in the spot is far off, and only there.
                if ($matte->v[$j + $x] >= 0.02) {
                    $planes->r[$i + $x] -= 0.3;
                    $planes->g[$i + $x] += 0.2;
                }
            }
        }
        $frame = new Frame(new FrameFormat($width, $height), str_repeat("\0", 6 * $width * $height));
        $site = new Site(0, $frame, extent: new Extent(Matrix::identity(), $cx / $height, $cy / $height, $radius / $height, $radius / $height), bounds: $matte->rect);
        $survey = (new Conceal())->prepare($values + ['offsetX' => 0.0, 'offsetY' => 0.0, 'fit' => 1.0, 'limit' => 0.0], $site);
        self::assertInstanceOf(Survey::class, $survey);
        $effect = $survey->effect(AreaPicture::of($survey->sees()->intersect($rect), $survey->block(), $planes, $matte));
        $effect->apply($planes, Weight::inside(Grey::filled($matte->rect, 1.0), 1.0));

        return [$wanted, $planes, $matte];
    }

    /** @return float the greatest difference under the matte, in codes of 255 */
    private static function off(Planes $wanted, Planes $is, Grey $matte): float
    {
        $most = 0.0;
        foreach ($matte->rect->rowsIn($wanted->rect) as $j => $i) {
            for ($x = 0; $x < $matte->rect->width; ++$x) {
                $most = max($most, abs($wanted->r[$i + $x] - $is->r[$i + $x]), abs($wanted->g[$i + $x] - $is->g[$i + $x]), abs($wanted->b[$i + $x] - $is->b[$i + $x]));
            }
        }

        return 255 * $most;
    }

    public function test_what_a_membrane_can_carry_on_is_carried_on_exactly_whatever_the_spots_size(): void
    {
        // The real part of a cubic in x + iy: where it differs from itself elsewhere, the difference solves Laplace's equation.
        $harmonic = static fn(float $x, float $y): float => 0.5 + 0.05 * $x + 0.03 * ($x * $x - $y * $y) + 0.01 * ($x ** 3 - 3 * $x * $y * $y);
        foreach ([6 => 0.1, 25 => 0.1, 50 => 0.1, 100 => 0.35] as $radius => $most) {
            [$wanted, $is, $matte] = self::covered($radius, $harmonic, ['offsetX' => 3.0 / 5], 7 * $radius, 5 * $radius, 2 * $radius, (int) (2.5 * $radius));
            self::assertLessThan($most, self::off($wanted, $is, $matte), "radius {$radius}");
        }
    }

    public function test_a_slope_goes_on_across_the_rim_without_a_step(): void
    {
        [, $is] = self::covered(40, static fn(float $x, float $y): float => 0.4 + 0.12 * $x + 0.06 * $y * $y, ['offsetX' => 0.5], 260, 200, 90, 100);
        $steps = [];
        for ($x = 40; $x < 140; ++$x) {
            $steps[] = 255 * ($is->r[100 * 260 + $x + 1] - $is->r[100 * 260 + $x]);
        }
        // 0.12 a radius of 40 pixels is 0.77 codes a pixel.
        self::assertEqualsWithDelta(0.765, min($steps), 0.25);
        self::assertEqualsWithDelta(0.765, max($steps), 0.25);
    }

    public function test_at_the_edge_of_the_picture_nothing_pulls_at_the_cover(): void
    {
        // Half of the spot lies beyond the left edge; the light changes from top to bottom alone.
        [$wanted, $is, $matte] = self::covered(20, static fn(float $x, float $y): float => 0.5 + 0.05 * $y, ['offsetX' => 0.5], 140, 100, 0, 50);
        self::assertLessThan(0.1, self::off($wanted, $is, $matte));
    }

    public function test_grain_of_the_patch_stays_and_the_limit_keeps_to_what_is_unlike_the_ring(): void
    {
        $random = Chance::seeded(8);
        $noise = static fn(): float => 0.5 + $random->between(-0.02, 0.02);
        [, $is, $matte] = self::covered(20, $noise, ['offsetX' => 0.5], 140, 100, 45, 50);
        $spread = static function (Planes $p, int $left): float {
            $v = [];
            for ($y = 42; $y < 58; ++$y) {
                for ($x = $left; $x < $left + 16; ++$x) {
                    $v[] = $p->r[$y * 140 + $x];
                }
            }
            $mean = array_sum($v) / 256;

            return sqrt(array_sum(array_map(static fn(float $x): float => ($x - $mean) ** 2, $v)) / 256);
        };
        self::assertEqualsWithDelta($spread($is, 87), $spread($is, 37), 0.0015);
        self::assertGreaterThan(0.0, $matte->at(45, 50));
        // With the limit, what is like its surroundings is left: here a spot that hides nothing.
        $scene = Scene::painted(static fn(): array => [0.5 + ($n = $random->between(-0.02, 0.02)), 0.4 + $n, 0.4 + $n], radii: [0.15, 0.15]);
        $before = $scene->frame->window($scene->frame->format->rect());
        $changed = static fn(float $limit): float => array_sum(array_map(static fn(float $a, float $b): float => abs($a - $b), $before->r, $scene->touched(new Conceal(), ['offsetX' => 0.4, 'limit' => $limit])->r));
        self::assertLessThan(0.5 * $changed(0.0), $changed(1.0));
    }

    public function test_light_a_patch_has_by_chance_stays_with_it_and_its_edges_come_along(): void
    {
        $random = Chance::seeded(11);
        $mean = static function (Planes $p, int $cx): float {
            $sum = 0.0;
            for ($k = 0; $k < 256; ++$k) {
                $sum += $p->r[(42 + intdiv($k, 16)) * 140 + $cx - 8 + $k % 16] / 256;
            }

            return $sum;
        };
        foreach ([0.02, -0.02] as $blotch) {
            $skin = static fn(float $x, float $y): float => 0.5 + $blotch * exp(-($x - 2.5) ** 2 - $y * $y) + $random->between(-0.02, 0.02);
            [, $is] = self::covered(20, $skin, ['offsetX' => 0.5], 140, 100, 45, 50);
            self::assertEqualsWithDelta(0.9 * $blotch, $mean($is, 95) - 0.5, 0.004);
            self::assertEqualsWithDelta(0.0, $mean($is, 45) - 0.5, 0.006);
        }
        // A lid, a jaw: what is lighter than grain alone could make it is meant.
        $edge = static fn(float $x, float $y): float => 0.5 + 0.1 * tanh(6 * $y) + $random->between(-0.01, 0.01);
        [, $is] = self::covered(20, $edge, ['offsetX' => 0.5], 140, 100, 45, 50);
        for ($x = 40; $x < 50; ++$x) {
            self::assertEqualsWithDelta(0.4, $is->r[42 * 140 + $x], 0.025);
            self::assertEqualsWithDelta(0.6, $is->r[58 * 140 + $x], 0.025);
        }
    }
}
