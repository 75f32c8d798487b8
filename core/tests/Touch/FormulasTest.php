<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Touch;

use Cossel\Core\Colour\Cube;
use Cossel\Core\Colour\Oklab;
use Cossel\Core\Colour\Transfer;
use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Geometry\Spline;
use Cossel\Core\Picture\Gaussian;
use Cossel\Core\Picture\LabPlanes;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Touch\Balance;
use Cossel\Core\Touch\Blur;
use Cossel\Core\Touch\Cdl;
use Cossel\Core\Touch\Curves;
use Cossel\Core\Touch\Glow;
use Cossel\Core\Touch\Hues;
use Cossel\Core\Touch\Insert;
use Cossel\Core\Touch\Internal\Blend;
use Cossel\Core\Touch\Legal;
use Cossel\Core\Touch\Lut;
use Cossel\Core\Touch\MatchColour;
use Cossel\Core\Touch\Sharpen;
use Cossel\Core\Touch\Sidelight;
use Cossel\Core\Touch\Tone;
use Cossel\Core\Touch\Whiten;
use PHPUnit\Framework\TestCase;

/** What kinds of touch compute, against their formulas written out plainly for a pixel. */
final class FormulasTest extends TestCase
{
    /**
     * @param callable(array{float, float, float}): array{float, float, float} $formula
     */
    private static function assertFormula(Planes $after, Scene $scene, callable $formula, float $tolerance = 1e-6): void
    {
        $before = $scene->frame->window($scene->frame->format->rect());
        for ($i = 0, $n = count($before->r); $i < $n; $i += 7) {
            $wanted = $formula([$before->r[$i], $before->g[$i], $before->b[$i]]);
            foreach ([$after->r[$i], $after->g[$i], $after->b[$i]] as $c => $v) {
                self::assertEqualsWithDelta($wanted[$c], $v, $tolerance, "pixel {$i} channel {$c}");
            }
        }
    }

    /** @return array{float, float, float} */
    private static function lab(array $rgb): array
    {
        return Oklab::fromLinear(...array_map(Transfer::Bt1886->linear(...), $rgb));
    }

    /** @return array{float, float, float} */
    private static function rgb(array $lab): array
    {
        return array_map(Transfer::Bt1886->code(...), Oklab::toLinear(...$lab));
    }

    public function test_the_colour_decision_list(): void
    {
        // Slope, offset, power and saturation as ASC CDL 1.2 orders them.
        $scene = Scene::noise();
        $after = $scene->everywhere(new Cdl(), ['slopeRed' => 1.2, 'offsetRed' => 0.1, 'powerRed' => 0.9, 'slopeBlue' => 0.7, 'offsetGreen' => -0.2, 'powerGreen' => 1.4, 'saturation' => 0.8]);
        self::assertFormula($after, $scene, static function (array $c): array {
            $f = static fn(float $v, float $power): float => $v < 0 ? $v : $v ** $power;
            $c = [$f($c[0] * 1.2 + 0.1, 0.9), $f($c[1] - 0.2, 1.4), $c[2] * 0.7];
            $luma = 0.2126 * $c[0] + 0.7152 * $c[1] + 0.0722 * $c[2];

            return array_map(static fn(float $v): float => $luma + 0.8 * ($v - $luma), $c);
        }, 1e-4);
    }

    public function test_curves(): void
    {
        $scene = Scene::noise();
        $luma = [[0.0, 0.05], [0.4, 0.5], [1.0, 0.9]];
        $red = [[0.2, 0.1], [0.8, 0.9]];
        $after = $scene->everywhere(new Curves(), ['luma' => $luma, 'red' => $red]);
        self::assertFormula($after, $scene, static function (array $c) use ($luma, $red): array {
            $c[0] = Spline::through($red)->at($c[0]);
            $y = 0.2126 * $c[0] + 0.7152 * $c[1] + 0.0722 * $c[2];
            $shift = Spline::through($luma)->at($y) - $y;

            return array_map(static fn(float $v): float => $v + $shift, $c);
        }, 1e-5);
    }

    public function test_balance_by_zones(): void
    {
        $scene = Scene::noise();
        $after = $scene->everywhere(new Balance(), ['shadowsRed' => 0.05, 'midsYellow' => -0.04, 'highlightsRed' => -0.02]);
        $s = static fn(float $a, float $b, float $x): float => ($t = max(0, min(1, ($x - $a) / ($b - $a)))) * $t * (3 - 2 * $t);
        self::assertFormula($after, $scene, static function (array $c) use ($s): array {
            [$l, $a, $b] = self::lab($c);
            $shadows = 1 - $s(0.2, 0.5, $l);
            $highlights = $s(0.55, 0.85, $l);

            return self::rgb([$l, $a + 0.05 * $shadows - 0.02 * $highlights, $b - 0.04 * (1 - $shadows - $highlights)]);
        }, 2e-3);
    }

    public function test_hues_change_only_the_hues_they_are_about_and_leave_grey_alone(): void
    {
        $yellow = self::rgb([0.8, 0.15 * cos(deg2rad(100)), 0.15 * sin(deg2rad(100))]);
        $blue = self::rgb([0.5, 0.15 * cos(deg2rad(260)), 0.15 * sin(deg2rad(260))]);
        $scene = Scene::painted(static fn(int $x): array => [$yellow, $blue, [0.5, 0.5, 0.5]][$x % 3]);
        $after = $scene->everywhere(new Hues(), ['saturation' => [[60.0, 0.0], [100.0, -0.5], [140.0, 0.0], [250.0, 0.0]], 'hue' => [[60.0, 0.0], [100.0, 20.0], [140.0, 0.0], [250.0, 0.0]]]);
        [$l, $a, $b] = self::lab($after->at(0, 0));
        self::assertEqualsWithDelta(0.8, $l, 2e-3);
        self::assertEqualsWithDelta(0.075, hypot($a, $b), 2e-3);
        self::assertEqualsWithDelta(120.0, rad2deg(atan2($b, $a)), 0.5);
        foreach ([[1, $blue], [2, [0.5, 0.5, 0.5]]] as [$x, $rgb]) {
            foreach ($after->at($x, 0) as $c => $v) {
                self::assertEqualsWithDelta($rgb[$c], $v, 2e-3);
            }
        }
    }

    public function test_a_look_up_table_in_one_dimension(): void
    {
        $table = Cube::parse("LUT_1D_SIZE 3\n0 0 0.1\n0.4 0.5 0.5\n1 1 0.9\n");
        $assets = new class ($table) implements \Cossel\Core\Touch\Assets {
            public function __construct(private readonly Cube $table) {}

            public function cube(string $name): Cube
            {
                return $this->table;
            }

            public function frame(string $name, int $number, int $rows): \Cossel\Core\Picture\Frame
            {
                throw new \LogicException($name);
            }
        };
        $planes = new Planes(Rect::of(0, 0, 3, 1), [0.25, 0.75, 1.2], [0.25, 0.75, -0.3], [0.25, 0.75, 0.5]);
        (new Lut())->prepare(['file' => 'x'], new \Cossel\Core\Touch\Site(0, Scene::noise()->frame, $assets))->apply($planes, Weight::everywhere($planes->rect, 1.0));
        foreach ([[0.2, 0.7, 1.0], [0.25, 0.75, 0.0], [0.3, 0.7, 0.5]] as $c => $wanted) {
            foreach ($wanted as $i => $v) {
                self::assertEqualsWithDelta($v, [$planes->r, $planes->g, $planes->b][$c][$i], 1e-12);
            }
        }
    }

    public function test_a_look_up_table_in_three_dimensions_is_exact_for_what_is_linear(): void
    {
        // Tetrahedral interpolation reproduces every linear map; the scene's table swaps red and green.
        $scene = Scene::noise();
        self::assertFormula($scene->everywhere(new Lut(), ['file' => 'cube']), $scene, static function (array $c): array {
            $cut = static fn(float $v): float => max(0, min(1, $v));

            return [$cut($c[1]), $cut($c[0]), $cut($c[2])];
        }, 1e-9);
    }

    public function test_legal_levels_keep_to_the_recommendation_and_leave_the_rest_alone(): void
    {
        $scene = Scene::painted(static fn(int $x, int $y): array => [-0.07 + 1.16 * $x / 95, 1.09 - 1.16 * $y / 63, ($x * $y % 64) / 63]);
        $before = $scene->frame->window($scene->frame->format->rect());
        $after = $scene->everywhere(new Legal(), []);
        $kept = 0;
        foreach ($after->r as $i => $r) {
            $was = [$before->r[$i], $before->g[$i], $before->b[$i]];
            $is = [$r, $after->g[$i], $after->b[$i]];
            $luma = 0.2126 * $is[0] + 0.7152 * $is[1] + 0.0722 * $is[2];
            self::assertGreaterThanOrEqual(-0.05, min($is));
            self::assertLessThanOrEqual(1.05, max($is));
            self::assertGreaterThanOrEqual(-0.01 - 1e-9, $luma);
            self::assertLessThanOrEqual(1.03 + 1e-9, $luma);
            if (min($was) >= 0.01 && max($was) <= 1.01) {
                self::assertSame($was, $is);
                ++$kept;
            }
        }
        self::assertGreaterThan(2000, $kept);
    }

    public function test_the_knee_of_legal_levels_joins_smoothly_and_comes_ever_closer_to_the_limit(): void
    {
        $scene = Scene::painted(static fn(int $x, int $y): array => array_fill(0, 3, -0.07 + 1.16 * $x / 95));
        $soft = static fn(float $v, float $limit, float $knee): float => $limit - $knee * $knee / ($v - $limit + 2 * $knee);
        foreach ([0.02, 0.06] as $knee) {
            self::assertFormula($scene->everywhere(new Legal(), ['knee' => $knee]), $scene, static function (array $c) use ($soft, $knee): array {
                $held = static fn(float $v, float $least, float $most): float => $v > $most - $knee ? $soft($v, $most, $knee) : ($v < $least + $knee ? -$soft(-$v, -$least, $knee) : $v);
                $channel = $held($c[0], -0.05, 1.05);

                return array_fill(0, 3, $channel + $held($channel, -0.01, 1.03) - $channel);
            }, 1e-9);
        }
    }

    public function test_blur_is_a_gaussian_of_linear_light(): void
    {
        $scene = Scene::noise();
        $before = $scene->frame->window($scene->frame->format->rect());
        $after = $scene->everywhere(new Blur(), ['radius' => 0.03]);
        $light = Gaussian::values(array_map(Transfer::Bt1886->linear(...), $before->g), Scene::WIDTH, Scene::HEIGHT, 0.03 * Scene::HEIGHT);
        foreach ([500, 2000, 5000] as $i) {
            self::assertEqualsWithDelta(Transfer::Bt1886->code($light[$i]), $after->g[$i], 1e-9);
        }
    }

    public function test_sharpening_leaves_what_is_weaker_than_its_threshold_and_makes_edges_steeper(): void
    {
        $scene = Scene::painted(static fn(int $x, int $y): array => array_fill(0, 3, ($x < 48 ? 0.3 : 0.6) + (($x + $y) % 2 ? 0.001 : -0.001)));
        $before = $scene->frame->window($scene->frame->format->rect());
        $after = $scene->everywhere(new Sharpen(), ['strength' => 1.0, 'radius' => 0.02, 'threshold' => 0.01]);
        self::assertSame($before->at(20, 30), $after->at(20, 30));
        self::assertLessThan($before->at(47, 30)[1] - 0.02, $after->at(47, 30)[1]);
        self::assertGreaterThan($before->at(48, 30)[1] + 0.02, $after->at(48, 30)[1]);
    }

    public function test_glow_spills_from_what_is_over_the_threshold(): void
    {
        $scene = Scene::painted(static fn(int $x, int $y): array => hypot($x - 48, $y - 32) < 4 ? [1.0, 0.9, 0.8] : [0.2, 0.2, 0.2]);
        $after = $scene->everywhere(new Glow(), ['intensity' => 1.0, 'radius' => 0.05, 'threshold' => 0.3]);
        [$r, $g, $b] = $after->at(55, 32);
        self::assertGreaterThan(0.25, $r);
        self::assertGreaterThan($b, $r);
        self::assertEqualsWithDelta(0.2, $after->at(2, 2)[0], 1e-3);
        $still = Scene::painted(static fn(): array => [0.4, 0.4, 0.4]);
        self::assertEqualsWithDelta(0.4, $still->everywhere(new Glow(), ['intensity' => 4.0, 'threshold' => 0.5])->at(48, 32)[0], 1e-4);
    }

    public function test_light_from_one_side_turns_with_the_area(): void
    {
        foreach ([0.0, 90.0] as $turn) {
            $motion = Matrix::about(0.75, 0.5, $turn, 1, 1);
            $scene = Scene::painted(static fn(): array => [0.4, 0.4, 0.4], [0.25, 0.25], motion: $motion);
            $after = $scene->touched(new Sidelight(), ['stops' => 1.0, 'direction' => 0.0, 'width' => 0.5]);
            $near = $turn === 0.0 ? $after->at(62, 32) : $after->at(48, 46);
            $far = $turn === 0.0 ? $after->at(34, 32) : $after->at(48, 18);
            self::assertEqualsWithDelta(2 * 0.4 ** 2.4, $near[0] ** 2.4, 2e-3, "turn {$turn}");
            self::assertEqualsWithDelta(0.4, $far[0], 1e-3, "turn {$turn}");
        }
    }

    public function test_matching_brings_the_mean_to_the_target_and_keeps_differences(): void
    {
        $scene = Scene::skin();
        $before = LabPlanes::of($scene->frame->window($scene->frame->format->rect()), $scene->matte->rect, Transfer::Bt1886);
        $planes = $scene->touched(new MatchColour(), ['light' => 1.0, 'colour' => 1.0, 'targetL' => 0.7, 'targetA' => 0.03, 'targetB' => 0.06]);
        $after = LabPlanes::of($planes, $scene->matte->rect, Transfer::Bt1886);
        foreach (['l' => 0.7, 'a' => 0.03, 'b' => 0.06] as $channel => $target) {
            [$mean] = \Cossel\Core\Picture\Robust::of($after->{$channel}, $scene->matte->v);
            self::assertEqualsWithDelta($target, $mean, 2e-3, $channel);
        }
        $middle = ($scene->matte->rect->height >> 1) * $scene->matte->rect->width + ($scene->matte->rect->width >> 1);
        self::assertEqualsWithDelta($before->l[$middle] - $before->l[$middle + 3], $after->l[$middle] - $after->l[$middle + 3], 1e-6);
    }

    public function test_blends_are_those_of_the_w3c(): void
    {
        // Values worked out by hand from Compositing and Blending Level 1.
        self::assertEqualsWithDelta([0.32, 0.76, 0.5], Blend::Overlay->of([0.4, 0.8, 0.5], [0.4, 0.4, 0.5]), 1e-12);
        self::assertEqualsWithDelta([0.352, 0.4 + 0.6 * (sqrt(0.4) - 0.4)], array_slice(Blend::SoftLight->of([0.4, 0.4, 0.1], [0.4, 0.8, 0.5]), 0, 2), 1e-12);
        self::assertEqualsWithDelta(0.1, Blend::SoftLight->of([0, 0, 0.1], [0, 0, 0.5])[2], 1e-12);
        $out = Blend::Colour->of([0.5, 0.5, 0.5], [0.2, 0.4, 0.6]);
        self::assertEqualsWithDelta(0.5, 0.3 * $out[0] + 0.59 * $out[1] + 0.11 * $out[2], 1e-12);
        self::assertEqualsWithDelta(0.2, $out[1] - $out[0], 1e-12);
    }

    public function test_calm_zones_are_read_without_noise(): void
    {
        $scene = Scene::painted(static fn(int $x, int $y): array => array_fill(0, 3, 0.25 + (($x + $y) % 2 ? 0.04 : -0.04)));
        $spread = static function (Planes $p): float {
            $gains = [];
            foreach ([[40, 30], [41, 30], [42, 30], [43, 31]] as [$x, $y]) {
                $gains[] = $p->at($x, $y)[1] / (0.25 + (($x + $y) % 2 ? 0.04 : -0.04));
            }

            return max($gains) - min($gains);
        };
        self::assertGreaterThan(0.05, $spread($scene->everywhere(new Tone(), ['shadows' => 1.5])));
        self::assertLessThan(0.005, $spread($scene->everywhere(new Tone(), ['shadows' => 1.5, 'calm' => 0.02])));
    }

    public function test_teeth_lose_their_yellow_up_to_the_ceiling_and_lips_keep_their_red(): void
    {
        $tooth = self::rgb([0.72, 0.004, 0.06]);
        $lip = self::rgb([0.55, 0.11, 0.05]);
        $dark = self::rgb([0.2, 0.02, 0.02]);
        $scene = Scene::painted(static fn(int $x): array => [$tooth, $lip, $dark][$x % 3]);
        $after = $scene->everywhere(new Whiten(), ['yellow' => 1.0, 'lift' => 0.2, 'ceiling' => 0.78]);
        [$l, , $b] = self::lab($after->at(0, 0));
        self::assertLessThan(0.78, $l);
        self::assertGreaterThan(0.73, $l);
        self::assertEqualsWithDelta(0.01, $b, 2e-3);
        foreach ([[1, $lip], [2, $dark]] as [$x, $rgb]) {
            foreach ($after->at($x, 0) as $c => $v) {
                self::assertEqualsWithDelta($rgb[$c], $v, 2e-3);
            }
        }
    }

    public function test_other_footage_shows_through_in_its_place(): void
    {
        $scene = Scene::painted(static fn(): array => [0.5, 0.5, 0.5]);
        $shown = Scene::noise(99)->frame->window(Rect::of(0, 0, Scene::WIDTH, Scene::HEIGHT));
        $after = $scene->everywhere(new Insert(), ['file' => 'footage']);
        foreach ([[0, 0], [40, 20], [95, 63]] as [$x, $y]) {
            self::assertEqualsWithDelta($shown->at($x, $y), $after->at($x, $y), 1e-9);
        }
        $moved = $scene->everywhere(new Insert(), ['file' => 'footage', 'moveX' => 10 / 64]);
        self::assertEqualsWithDelta($shown->at(30, 20), $moved->at(40, 20), 1e-9);
        self::assertSame([0.5, 0.5, 0.5], array_map(static fn(float $v): float => round($v, 4), $moved->at(3, 20)));
    }

    public function test_curves_are_exact_where_they_are_steep(): void
    {
        // Near black, and near where a lift crosses it, a quarter of a 16-bit code is asked for.
        $step = static fn(int $x, int $y): float => ($y * 96 + $x) / 200_000;
        $scene = Scene::painted(static fn(int $x, int $y): array => [$step($x, $y), $step($x, $y) + 0.0905, 0.5]);
        $fine = 1e-5;
        self::assertFormula($scene->everywhere(new Tone(), ['gamma' => 4.0]), $scene, static fn(array $c): array => array_map(static fn(float $v): float => $v ** 0.25, $c), $fine);
        self::assertFormula($scene->everywhere(new Tone(), ['gamma' => 4.0, 'lift' => -0.1]), $scene, static fn(array $c): array => array_map(static fn(float $v): float => ($y = $v - 0.1 * (1 - $v)) < 0 ? -abs($y) ** 0.25 : $y ** 0.25, $c), $fine);
        self::assertFormula($scene->everywhere(new Cdl(), ['powerRed' => 0.3, 'powerGreen' => 0.3]), $scene, static fn(array $c): array => [$c[0] ** 0.3, $c[1] ** 0.3, $c[2]], $fine);
        // And beyond the table.
        $far = Scene::painted(static fn(): array => [0.5, 0.5, 0.5]);
        foreach ([-3.0, 5.5] as $v) {
            $planes = new Planes(Rect::of(0, 0, 1, 1), [$v], [$v], [$v]);
            $far->act(new Tone(), Scene::values(new Tone(), ['gamma' => 2.0]), $planes, Weight::everywhere($planes->rect, 1.0));
            self::assertEqualsWithDelta($v < 0 ? -sqrt(-$v) : sqrt($v), $planes->r[0], 1e-9);
        }
    }

    public function test_two_unlike_curves_of_a_kind_do_not_take_each_others_place(): void
    {
        $scene = Scene::noise();
        $soft = $scene->everywhere(new Tone(), ['gamma' => 1.3]);
        $hard = $scene->everywhere(new Tone(), ['gamma' => 0.7]);
        self::assertSame([$soft->r, $hard->r], [$scene->everywhere(new Tone(), ['gamma' => 1.3])->r, $scene->everywhere(new Tone(), ['gamma' => 0.7])->r]);
        self::assertNotSame($soft->r, $hard->r);
    }

    public function test_colours_that_a_touch_means_to_leave_keep_their_very_code_values(): void
    {
        // Greys and everything near black: hues and the gums of teeth have nothing to say there.
        $scene = Scene::painted(static fn(int $x, int $y): array => $x < 48 ? [($x + 96 * $y) / 300_000, ($x + 96 * $y) / 300_000, ($x + 96 * $y) / 300_000] : [0.4, 0.1, 0.12]);
        $before = $scene->frame->window($scene->frame->format->rect());
        foreach ([[new Hues(), ['saturation' => [[200.0, 0.5], [220.0, 0.5]], 'lightness' => [[200.0, 0.1], [220.0, 0.0]]]], [new Whiten(), ['yellow' => 1.0, 'lift' => 0.1]]] as [$kind, $changes]) {
            $after = $scene->touched($kind, $changes);
            for ($x = 0; $x < 48; ++$x) {
                self::assertSame($before->at($x, 30), $after->at($x, 30), $kind->name());
            }
        }
    }

    public function test_the_way_to_oklab_and_back_is_exact_down_to_black(): void
    {
        foreach ([0.0, 1e-9, 1e-6, 1e-3, 0.2, 1.0] as $light) {
            foreach ([[1, 1, 1], [1, 0.2, 0.1], [0.1, 0.3, 1]] as $mix) {
                $rgb = array_map(static fn(float $k): float => $k * $light, $mix);
                foreach (Oklab::toLinear(...Oklab::fromLinear(...$rgb)) as $c => $v) {
                    self::assertEqualsWithDelta($rgb[$c], $v, 1e-14 + 1e-13 * $light);
                }
            }
        }
    }

    public function test_light_from_one_side_falls_as_its_formula_says(): void
    {
        foreach ([[0.0, 1.0], [60.0, 0.0], [-35.0, 0.5], [120.0, 1.0]] as [$direction, $softness]) {
            $scene = Scene::painted(static fn(): array => [0.3, 0.3, 0.3], [0.3, 0.2]);
            $after = $scene->everywhere(new Sidelight(), ['stops' => 1.0, 'direction' => $direction, 'position' => 0.1, 'width' => 0.6, 'softness' => $softness]);
            foreach ([[30, 20], [48, 32], [60, 40], [40, 45], [66, 25]] as [$x, $y]) {
                $u = (($x + 0.5) / 64 - 0.75) / 0.3 * cos(deg2rad($direction)) + (($y + 0.5) / 64 - 0.5) / 0.2 * sin(deg2rad($direction));
                $t = max(0.0, min(1.0, ($u - 0.1) / 0.6 / 2 + 0.5));
                $w = $t + $softness * ($t * $t * (3 - 2 * $t) - $t);
                self::assertEqualsWithDelta(0.3 * 2 ** ($w / 2.4), $after->at($x, $y)[0], 2e-4, "{$direction} {$x} {$y}");
            }
        }
    }

    public function test_soft_light_in_the_darks(): void
    {
        // D(.1) = ((16 x .1 - 12) x .1 + 4) x .1 = .296
        self::assertEqualsWithDelta(0.1 + 0.6 * 0.196, Blend::SoftLight->of([0.1, 0.1, 0.1], [0.8, 0.8, 0.8])[0], 1e-12);
    }

    public function test_light_and_colour_are_matched_apart(): void
    {
        $scene = Scene::painted(static fn(): array => [0.6, 0.45, 0.4]);
        [$l, $a, $b] = self::lab([0.6, 0.45, 0.4]);
        foreach ([[1.0, 0.0], [0.0, 1.0], [0.5, 0.25]] as [$light, $colour]) {
            $after = self::lab($scene->touched(new MatchColour(), ['light' => $light, 'colour' => $colour, 'targetL' => 0.7, 'targetA' => 0.0, 'targetB' => 0.1])->at(48, 32));
            self::assertEqualsWithDelta([$l + $light * (0.7 - $l), $a - $colour * $a, $b + $colour * (0.1 - $b)], $after, 1e-3);
        }
    }

    public function test_whitening_takes_half_of_the_red_and_of_the_yellow_beyond_clean(): void
    {
        $scene = Scene::painted(static fn(): array => [0.80, 0.74, 0.66]);
        [$l, $a, $b] = self::lab([0.80, 0.74, 0.66]);
        self::assertGreaterThan(0.002, $a);
        $after = self::lab($scene->touched(new Whiten(), ['yellow' => 0.5, 'clean' => 0.01])->at(48, 32));
        self::assertEqualsWithDelta([$l, $a / 2, $b - 0.5 * ($b - 0.01)], $after, 1e-4);
    }
}
