<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Touch;

use Cossel\Core\Colour\Oklab;
use Cossel\Core\Colour\Transfer;
use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Picture\Gaussian;
use Cossel\Core\Picture\LabPlanes;
use Cossel\Core\Picture\Luma;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Tests\Chance;
use Cossel\Core\Touch\Conceal;
use Cossel\Core\Touch\Even;
use Cossel\Core\Touch\Grain;
use Cossel\Core\Touch\Internal\GrainTile;
use Cossel\Core\Touch\Iris;
use PHPUnit\Framework\TestCase;

/** Skin, irises, spots and grain on made pictures, where what should become of them is known. */
final class RetouchTest extends TestCase
{
    /** @return array{float, float, float} R'G'B' */
    private static function rgb(float $l, float $a, float $b): array
    {
        return array_map(Transfer::Bt1886->code(...), Oklab::toLinear($l, $a, $b));
    }

    private static function lab(Planes $planes): LabPlanes
    {
        return LabPlanes::of($planes, $planes->rect, Transfer::Bt1886);
    }

    /** Skin with modelling (a slope), blotches of 10 pixels in L and a, and fine noise. */
    private static function skin(float $blotch = 0.02): Scene
    {
        $random = Chance::seeded(4);

        return Scene::painted(static fn(int $x, int $y): array => self::rgb(
            0.7 + 0.0015 * ($x - 48) + $blotch * sin($x / 3.2) * sin($y / 3.2) + $random->between(-0.004, 0.004),
            0.04 + $blotch / 2 * sin($x / 3.2) * sin($y / 3.2),
            0.05,
        ), [0.55, 0.4], feather: 0.02);
    }

    /** Amplitude of the blotches in the middle, by their own pattern. */
    private static function blotches(LabPlanes $lab, string $channel): float
    {
        $sum = $of = 0.0;
        for ($y = 20; $y < 44; ++$y) {
            for ($x = 30; $x < 66; ++$x) {
                $k = sin($x / 3.2) * sin($y / 3.2);
                $sum += $lab->{$channel}[$y * Scene::WIDTH + $x] * $k;
                $of += $k * $k;
            }
        }

        return $sum / $of;
    }

    public function test_blotches_go_and_modelling_and_grain_stay(): void
    {
        $scene = self::skin();
        $before = self::lab($scene->frame->window($scene->frame->format->rect()));
        $after = self::lab($scene->touched(new Even(), ['tone' => 1.0, 'width' => 3.0]));
        self::assertLessThan(0.45 * self::blotches($before, 'l'), self::blotches($after, 'l'));
        self::assertLessThan(0.3 * self::blotches($before, 'a'), self::blotches($after, 'a'));
        $slope = static fn(LabPlanes $lab): float => array_sum(array_map(static fn(int $y): float => array_sum(array_slice($lab->l, $y * Scene::WIDTH + 60, 8)) - array_sum(array_slice($lab->l, $y * Scene::WIDTH + 28, 8)), range(22, 41)));
        self::assertEqualsWithDelta($slope($before), $slope($after), 0.06 * $slope($before));
        $fine = static fn(Planes $p): float => self::spread($p, 30, 66, 20, 44);
        self::assertGreaterThan(0.9, $fine($scene->touched(new Even(), ['tone' => 1.0, 'width' => 3.0])) / $fine($scene->frame->window($scene->frame->format->rect())));
    }

    public function test_negative_amounts_bring_texture_back(): void
    {
        $scene = self::skin(0.0);
        $still = self::spread($scene->frame->window($scene->frame->format->rect()), 30, 66, 20, 44);
        self::assertGreaterThan(1.3 * $still, self::spread($scene->touched(new Even(), ['pores' => -0.8, 'width' => 4.0]), 30, 66, 20, 44));
        self::assertLessThan(0.7 * $still, self::spread($scene->touched(new Even(), ['pores' => 0.8, 'width' => 4.0]), 30, 66, 20, 44));
    }

    public function test_pores_go_and_the_edge_between_two_lights_stays(): void
    {
        $light = static fn(int $x, int $y): float => 0.68 + ($x < 48 ? 0.0 : 0.06) + 0.004 * sin(2.1 * $x) * sin(1.7 * $y);
        $scene = Scene::painted(static fn(int $x, int $y): array => self::rgb($light($x, $y), 0.04, 0.05), [0.55, 0.4]);
        $after = self::lab($scene->touched(new Even(), ['pores' => 1.0, 'width' => 4.0]));
        $column = static fn(int $x): float => array_sum(array_map(static fn(int $y): float => $after->l[$y * Scene::WIDTH + $x], range(22, 41))) / 20;
        self::assertGreaterThan(0.052, $column(48) - $column(47));
        self::assertEqualsWithDelta(0.68, $column(46), 0.004);
        self::assertEqualsWithDelta(0.74, $column(49), 0.004);
    }

    public function test_shine_is_what_stands_out_of_the_skin_nothing_else(): void
    {
        $skin = static fn(float $spot): Scene => Scene::painted(static fn(int $x, int $y): array => self::rgb(0.68 + 0.02 * sin($x / 4) + $spot * exp(-(($x - 48) ** 2 + ($y - 30) ** 2) / 18), 0.04, 0.05), [0.55, 0.4]);
        $changed = static function (Scene $scene): array {
            $before = self::lab($scene->frame->window($scene->frame->format->rect()));
            $after = self::lab($scene->touched(new Even(), ['shine' => 1.0, 'width' => 4.0]));

            return array_filter(array_map(static fn(float $a, float $b): float => $a - $b, $before->l, $after->l), static fn(float $d): bool => abs($d) > 2e-3);
        };
        self::assertSame([], $changed($skin(0.0)));
        $spot = $changed($skin(0.12));
        self::assertGreaterThan(0.04, $spot[30 * Scene::WIDTH + 48]);
        foreach (array_keys($spot) as $i) {
            self::assertLessThan(14, hypot($i % Scene::WIDTH - 48, intdiv($i, Scene::WIDTH) - 30));
        }
    }

    public function test_what_is_no_skin_is_left_alone(): void
    {
        // A dark brow and red lips in the middle of skin.
        $brow = self::rgb(0.25, 0.02, 0.03);
        $lips = self::rgb(0.5, 0.16, 0.06);
        $scene = Scene::painted(static fn(int $x, int $y): array => match (true) {
            abs($x - 48) < 12 && abs($y - 22) < 3 => $brow,
            abs($x - 48) < 10 && abs($y - 42) < 3 => $lips,
            default => self::rgb(0.7 + 0.02 * sin($x / 2) * sin($y / 2), 0.04, 0.05),
        }, [0.55, 0.4]);
        $after = $scene->touched(new Even(), ['tone' => 1.0, 'lines' => 1.0, 'redness' => 1.0, 'width' => 1.5]);
        foreach ([[48, 22, $brow], [48, 42, $lips]] as [$x, $y, $rgb]) {
            self::assertEqualsWithDelta($rgb, $after->at($x, $y), 0.012, "{$x} {$y}");
        }
    }

    public function test_an_iris_takes_the_hue_and_keeps_pupil_catch_light_and_light(): void
    {
        $scene = self::eye();
        $before = self::lab($scene->frame->window($scene->frame->format->rect()));
        $after = self::lab($scene->touched(new Iris(), ['strength' => 1.0, 'hue' => 200.0, 'chroma' => 0.06]));
        $at = static fn(int $x, int $y): int => $y * Scene::WIDTH + $x;
        foreach ([[61, 32], [48, 44], [37, 38]] as [$x, $y]) {
            $i = $at($x, $y);
            self::assertEqualsWithDelta(200.0, fmod(rad2deg(atan2($after->b[$i], $after->a[$i])) + 360, 360), 4, "{$x} {$y}");
            self::assertEqualsWithDelta($before->l[$i], $after->l[$i], 1e-6);
        }
        // Pupil, catch-light and white.
        foreach ([[48, 32], [56, 22], [72, 32]] as [$x, $y]) {
            $i = $at($x, $y);
            self::assertEqualsWithDelta([$before->l[$i], $before->a[$i], $before->b[$i]], [$after->l[$i], $after->a[$i], $after->b[$i]], 1e-3, "{$x} {$y}");
        }
    }

    public function test_an_iris_is_where_its_motion_has_taken_it(): void
    {
        $moved = Matrix::move(10 / 64, 0);
        $scene = self::eye(58, $moved);
        $after = self::lab($scene->touched(new Iris(), ['strength' => 1.0, 'hue' => 200.0]));
        $i = 32 * Scene::WIDTH + 71;
        self::assertEqualsWithDelta(200.0, fmod(rad2deg(atan2($after->b[$i], $after->a[$i])) + 360, 360), 4);
    }

    /** White with a brown iris of 18 pixels, fibres, a dark pupil and a grey catch-light. */
    private static function eye(int $cx = 48, ?Matrix $motion = null): Scene
    {
        return Scene::painted(static function (int $x, int $y) use ($cx): array {
            $r = hypot($x - $cx, $y - 32);
            if (hypot($x - $cx - 8, $y - 22) < 3) {
                return self::rgb(0.85, 0.0, 0.005);
            }

            return $r < 6 ? self::rgb(0.12, 0.0, 0.0) : ($r < 18 ? self::rgb(0.42 + 0.06 * sin(9 * atan2($y - 32, $x - $cx)), 0.03, 0.06) : self::rgb(0.8, 0.0, 0.01));
        }, [18 / 64, 18 / 64], motion: $motion, feather: 0.01);
    }

    public function test_a_spot_is_covered_seamlessly_on_a_slope_of_light(): void
    {
        $random = Chance::seeded(6);
        $skin = static fn(int $x, int $y): float => 0.5 + 0.003 * ($x - 48) + 0.002 * ($y - 32);
        $scene = Scene::painted(static function (int $x, int $y) use ($skin, $random): array {
            $n = $random->between(-0.003, 0.003);
            $spot = hypot($x - 48, $y - 32) < 4 ? 0.15 : 0.0;
            $v = $skin($x, $y);

            return [$v + $n, $v * 0.8 - $spot + $n, $v * 0.7 - $spot + $n];
        }, [6 / 64, 6 / 64], feather: 0.02);
        $after = $scene->touched(new Conceal(), ['offsetX' => 20 / 64, 'offsetY' => 6 / 64]);
        for ($y = 28; $y < 37; ++$y) {
            for ($x = 44; $x < 53; ++$x) {
                self::assertEqualsWithDelta([$skin($x, $y), 0.8 * $skin($x, $y), 0.7 * $skin($x, $y)], $after->at($x, $y), 0.012, "{$x} {$y}");
            }
        }
        // Without the fit the patch brings its own light with it.
        self::assertGreaterThan($skin(48, 32) + 0.05, $scene->touched(new Conceal(), ['offsetX' => 20 / 64, 'offsetY' => 6 / 64, 'fit' => 0.0])->at(48, 32)[0]);
        // Limited to the spot, the skin of the area that is like the ring stays as it is.
        $limited = $scene->touched(new Conceal(), ['offsetX' => 20 / 64, 'offsetY' => 6 / 64, 'limit' => 1.0]);
        $before = $scene->frame->window($scene->frame->format->rect());
        self::assertEqualsWithDelta($skin(48, 32) * 0.8, $limited->at(48, 32)[1], 0.012);
        self::assertEqualsWithDelta($before->at(48, 37)[1], $limited->at(48, 37)[1], 0.006);
    }

    public function test_grain_comes_back_as_strong_as_it_was_and_is_the_same_each_time(): void
    {
        // Grain all over the frame, gone inside the area.
        $random = Chance::seeded(9);
        $noise = [];
        for ($i = 0; $i < Scene::WIDTH * Scene::HEIGHT; ++$i) {
            // The sum of six is as good as normal, as grain is.
            $noise[] = array_sum(array_map(static fn(): float => $random->between(-0.008, 0.008), range(1, 6)));
        }
        $scene = Scene::painted(static fn(int $x, int $y): array => array_fill(0, 3, 0.5 + $noise[$y * Scene::WIDTH + $x]), [0.45, 0.35]);
        $smooth = static function () use ($scene): Planes {
            $planes = $scene->frame->window($scene->frame->format->rect());
            for ($y = 10; $y < 54; ++$y) {
                for ($x = 18; $x < 78; ++$x) {
                    $i = $y * Scene::WIDTH + $x;
                    [$planes->r[$i], $planes->g[$i], $planes->b[$i]] = [0.5, 0.5, 0.5];
                }
            }

            return $planes;
        };
        $grainy = static function (float $level) use ($smooth, $scene): Planes {
            $planes = $smooth();
            $scene->act(new Grain(), ['level' => $level], $planes, \Cossel\Core\Picture\Weight::inside($scene->matte, 1.0));

            return $planes;
        };
        $wanted = self::spread($scene->frame->window($scene->frame->format->rect()), 30, 66, 20, 44);
        self::assertEqualsWithDelta($wanted, self::spread($grainy(1.0), 30, 66, 20, 44), 0.15 * $wanted);
        self::assertEqualsWithDelta(2 * $wanted, self::spread($grainy(2.0), 30, 66, 20, 44), 0.3 * $wanted);
        self::assertSame($grainy(1.0)->g, $grainy(1.0)->g);
        // Where nothing is missing nothing is added.
        $untouched = $scene->frame->window($scene->frame->format->rect());
        $again = $scene->touched(new Grain(), ['level' => 1.0]);
        self::assertEqualsWithDelta($wanted, self::spread($again, 30, 66, 20, 44), 0.15 * $wanted);
        self::assertSame($untouched->at(2, 2), $again->at(2, 2));
    }

    /** Standard deviation of luma less its Gaussian of 1.2 pixels, over columns and rows. */
    private static function spread(Planes $planes, int $left, int $right, int $top, int $bottom): float
    {
        $luma = Luma::of($planes, $planes->rect);
        $soft = Gaussian::blur($luma, 1.2);
        $values = [];
        for ($y = $top; $y < $bottom; ++$y) {
            for ($x = $left; $x < $right; ++$x) {
                $values[] = $luma->at($x, $y) - $soft->at($x, $y);
            }
        }
        $mean = array_sum($values) / count($values);

        return sqrt(array_sum(array_map(static fn(float $v): float => ($v - $mean) ** 2, $values)) / count($values));
    }

    public function test_grain_does_not_lie_the_same_on_any_two_frames(): void
    {
        $places = array_map(GrainTile::place(...), range(0, 16_383));
        self::assertCount(16_384, array_unique($places, \SORT_REGULAR));
        // Nor does it travel: steps from one frame to the next go everywhere.
        $steps = [];
        for ($i = 1; $i < 240; ++$i) {
            $steps[] = (($places[$i][0] - $places[$i - 1][0]) & 127) . ' ' . (($places[$i][1] - $places[$i - 1][1]) & 127);
        }
        self::assertGreaterThan(200, count(array_unique($steps)));
        self::assertNotSame(GrainTile::place(-1), GrainTile::place(0));
    }

    public function test_lines_and_blotches_go_and_the_edge_between_two_lights_stays(): void
    {
        $step = static fn(float $line): Scene => Scene::painted(static fn(int $x, int $y): array => self::rgb(($x < 48 ? 0.62 : 0.72) + $line * sin($x * 0.9) * sin($y * 0.9), 0.04, 0.05), [0.6, 0.45], feather: 0.02);
        $edge = static function (Scene $scene, array $changes): float {
            $l = self::lab($scene->touched(new Even(), $changes))->l;
            $row = static fn(int $x): float => array_sum(array_map(static fn(int $y): float => $l[$y * Scene::WIDTH + $x], range(24, 40))) / 17;

            return $row(51) - $row(44);
        };
        $scene = $step(0.004);
        self::assertEqualsWithDelta($edge($scene, ['shine' => 1e-9]), $edge($scene, ['lines' => 1.0, 'blotches' => 1.0]), 0.022);
    }

    public function test_bands_are_what_their_gaussians_say_whatever_they_are_measured_in(): void
    {
        // Waves of ten pixels in a face of 256: the Gaussians' full widths are 2.05 and 5.12 pixels there.
        $left = static fn(float $width): float => exp(-2 * (M_PI * $width / 2.3548 / 10) ** 2);
        $scene = Scene::painted(static fn(int $x): array => self::rgb(0.66 + 0.01 * sin(2 * M_PI * $x / 10), 0.04, 0.05), [0.7, 0.48], feather: 0.02);
        $wave = static function (Planes $planes): float {
            $l = self::lab($planes)->l;
            $sum = 0.0;
            for ($x = 28; $x < 68; ++$x) {
                $sum += $l[32 * Scene::WIDTH + $x] * sin(2 * M_PI * $x / 10) / 20;
            }

            return $sum / 0.01;
        };
        self::assertEqualsWithDelta(1 - ($left(2.05) - $left(5.12)), $wave($scene->touched(new Even(), ['lines' => 1.0, 'width' => 4.0])), 0.03);
        self::assertEqualsWithDelta($left(2.05), $wave($scene->touched(new Even(), ['pores' => 1.0, 'width' => 4.0])), 0.03);
        self::assertEqualsWithDelta(1 - $left(5.12), $wave($scene->touched(new Even(), ['blotches' => 1.0, 'width' => 4.0])), 0.03);
    }

    public function test_tone_pulls_large_patches_half_way_to_the_mean(): void
    {
        // The left half redder than the right, far wider than blotches.
        $scene = Scene::painted(static fn(int $x): array => self::rgb(0.68, $x < 48 ? 0.05 : 0.03, 0.05), [0.7, 0.48], feather: 0.02);
        $apart = static function (Planes $planes): float {
            $a = self::lab($planes)->a;

            return $a[32 * Scene::WIDTH + 12] - $a[32 * Scene::WIDTH + 84];
        };
        self::assertEqualsWithDelta(0.5 * 0.02, $apart($scene->touched(new Even(), ['tone' => 1.0, 'width' => 0.35])), 0.0025);
    }

    public function test_redness_is_what_is_redder_than_the_skin_and_paleness_stays(): void
    {
        // A red patch and a pale one on skin.
        $scene = Scene::painted(static function (int $x, int $y): array {
            $patch = static fn(int $cx): float => exp(-(($x - $cx) ** 2 + ($y - 32) ** 2) / 40);

            return self::rgb(0.68, 0.04 + 0.02 * $patch(30) - 0.02 * $patch(66), 0.05);
        }, [0.7, 0.48], feather: 0.02);
        $a = self::lab($scene->touched(new Even(), ['redness' => 1.0]))->a;
        $at = static fn(int $x): float => $a[32 * Scene::WIDTH + $x];
        self::assertLessThan(0.047, $at(30));
        self::assertEqualsWithDelta(0.02, $at(66), 0.002);
        self::assertEqualsWithDelta(0.04, $at(48), 0.002);
    }
}
