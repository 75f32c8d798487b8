<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Pick;

use Cossel\Core\Colour\Oklab;
use Cossel\Core\Colour\Transfer;
use Cossel\Core\Pick\PickMatte;
use Cossel\Core\Pick\Ranges;
use Cossel\Core\Picture\AreaPicture;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Pick;
use Cossel\Core\Recipe\Sample;
use Cossel\Core\Tests\Chance;
use Cossel\Core\Tests\Touch\Scene;
use PHPUnit\Framework\TestCase;

final class PickTest extends TestCase
{
    /** @return array{float, float, float} R'G'B' */
    private static function colour(float $light, float $chroma, float $hue): array
    {
        return array_map(Transfer::Bt1886->code(...), Oklab::toLinear($light, $chroma * cos(deg2rad($hue)), $chroma * sin(deg2rad($hue))));
    }

    private static function matte(Scene $scene, Pick $pick): Grey
    {
        $rect = $scene->frame->format->rect();

        return (new PickMatte($pick))->of($scene->frame->window($rect), $rect, $scene->site->rows(), $scene->site->transfer(), self::light($scene));
    }

    private static function light(Scene $scene): float
    {
        $rect = $scene->frame->format->rect();

        return PickMatte::light(AreaPicture::of($rect, 1, $scene->frame->window($rect), Grey::filled($rect, 1.0)), $scene->site->transfer());
    }

    public function test_it_agrees_with_its_ranges_pixel_by_pixel(): void
    {
        $scene = Scene::noise(12);
        $pick = new Pick(hue: [350.0, 60.0, 40.0], chroma: [0.05, 0.2, 0.04], light: [0.3, 0.7, 0.15]);
        $matte = self::matte($scene, $pick);
        $fall = static fn(float $d): float => ($d = max(0, min(1, $d))) < 1 ? 1 - $d * $d * (3 - 2 * $d) : 0.0;
        $planes = $scene->frame->window($scene->frame->format->rect());
        $some = 0;
        foreach (range(0, 6143, 5) as $i) {
            [$l, $a, $b] = Oklab::fromLinear(...array_map(Transfer::Bt1886->linear(...), [$planes->r[$i], $planes->g[$i], $planes->b[$i]]));
            $c = hypot($a, $b);
            $away = abs(rad2deg(atan2($b, $a)) - 350);
            $away = min($away, abs($away - 360), abs($away - 720));
            $hue = 1 - (1 - $fall(($away - 30) / 40)) * min(1, $c / 0.02);
            $wanted = $hue * $fall(max(0.05 - $c, $c - 0.2) / 0.04) * $fall(max(0.3 - $l, $l - 0.7) / 0.15);
            self::assertEqualsWithDelta($wanted, $matte->v[$i], 1e-9);
            $some += $wanted > 0.0 && $wanted < 1.0 ? 1 : 0;
        }
        self::assertGreaterThan(50, $some);
    }

    public function test_specks_go_and_holes_are_filled(): void
    {
        // A light square of 20 pixels with a dark hole of 2, and a light speck of 2 beside it.
        $scene = Scene::painted(static function (int $x, int $y): array {
            $square = $x >= 10 && $x < 30 && $y >= 10 && $y < 30 && !($x >= 19 && $x < 21 && $y >= 19 && $y < 21);
            $speck = $x >= 60 && $x < 62 && $y >= 40 && $y < 42;

            return $square || $speck ? [0.8, 0.8, 0.8] : [0.1, 0.1, 0.1];
        });
        $raw = self::matte($scene, new Pick(light: [0.6, 1.5, 0.0]));
        self::assertSame([1.0, 0.0, 1.0], [$raw->at(15, 15), $raw->at(19, 19), $raw->at(61, 41)]);
        $clean = self::matte($scene, new Pick(light: [0.6, 1.5, 0.0], specks: 4 / 64, holes: 4 / 64));
        self::assertSame([1.0, 1.0, 0.0], [$clean->at(15, 15), $clean->at(19, 19), $clean->at(61, 41)]);
        self::assertSame([1.0, 0.0], [$clean->at(10, 15), $clean->at(9, 15)]);
        $inverted = self::matte($scene, new Pick(light: [0.6, 1.5, 0.0], invert: true));
        self::assertSame([0.0, 1.0], [$inverted->at(15, 15), $inverted->at(5, 5)]);
    }

    public function test_opening_and_closing_are_least_and_greatest_of_the_square_round_each_pixel(): void
    {
        $scene = Scene::noise(7);
        $rect = $scene->frame->format->rect();
        $light = [0.2, 0.6, 0.4];
        $extreme = static function (array $v, int $radius, bool $most) use ($rect): array {
            $out = [];
            foreach (array_keys($v) as $i) {
                [$x, $y] = [$i % $rect->width, intdiv($i, $rect->width)];
                $near = [];
                for ($q = max(0, $y - $radius); $q <= min($rect->height - 1, $y + $radius); ++$q) {
                    for ($p = max(0, $x - $radius); $p <= min($rect->width - 1, $x + $radius); ++$p) {
                        $near[] = $v[$q * $rect->width + $p];
                    }
                }
                $out[] = $most ? max($near) : min($near);
            }

            return $out;
        };
        foreach ([1, 2, 5] as $radius) {
            $size = 2 * $radius / $scene->site->rows();
            $raw = self::matte($scene, new Pick(light: $light))->v;
            self::assertSame($extreme($extreme($raw, $radius, false), $radius, true), self::matte($scene, new Pick(light: $light, specks: $size))->v, "specks of {$radius}");
            self::assertSame($extreme($extreme($raw, $radius, true), $radius, false), self::matte($scene, new Pick(light: $light, holes: $size))->v, "holes of {$radius}");
        }
    }

    public function test_it_follows_the_light_of_its_area(): void
    {
        $half = static fn(float $gain): Scene => Scene::painted(static fn(int $x): array => array_map(static fn(float $v): float => $v * $gain, $x < 48 ? [0.7, 0.6, 0.5] : [0.4, 0.35, 0.3]));
        $bright = $half(1.0);
        $mean = self::light($bright);
        $still = new Pick(light: [$mean, 1.5, 0.02]);
        $following = new Pick(light: [$mean, 1.5, 0.02], follow: $mean);
        self::assertSame([1.0, 0.0], [self::matte($bright, $still)->at(10, 10), self::matte($bright, $still)->at(80, 10)]);
        // A stop and more down: what was light is now under the range.
        $dark = $half(0.65);
        self::assertSame(0.0, self::matte($dark, $still)->at(10, 10));
        self::assertSame([1.0, 0.0], [self::matte($dark, $following)->at(10, 10), self::matte($dark, $following)->at(80, 10)]);
    }

    public function test_ranges_take_the_samples_marked_plus_and_leave_those_marked_minus(): void
    {
        $random = Chance::seeded(6);
        for ($try = 0; $try < 60; ++$try) {
            // Colours that a picture can hold.
            $base = [$random->between(0.5, 0.7), $random->between(0.06, 0.08), $random->between(0, 360)];
            $sample = static fn(array $lch, bool $taken): Sample => new Sample(0, [0.5, 0.5], self::colour(...$lch), $taken);
            $near = static fn(): array => [$base[0] + $random->between(-0.03, 0.03), $base[1] + $random->between(-0.01, 0.01), $base[2] + $random->between(-6, 6)];
            $taken = [$near(), $near(), $near()];
            // Unlike in one way: darker, greyer or of another hue.
            $left = $base;
            $k = $random->whole(0, 2);
            $left[$k] += [-0.25, -0.045, 45][$k];
            $pick = Ranges::proposed(new Pick(), [...array_map(static fn(array $c): Sample => $sample($c, true), $taken), $sample($left, false)], Transfer::Bt1886, null);
            $scene = Scene::painted(static fn(int $x): array => self::colour(...[...$taken, $left][$x % 4]));
            $matte = self::matte($scene, $pick);
            foreach ([0, 1, 2] as $x) {
                self::assertGreaterThan(0.97, $matte->at($x, 3), "try {$try}");
            }
            self::assertLessThan(0.1, $matte->at(3, 3), "try {$try}, unlike in " . ['light', 'chroma', 'hue'][$k]);
        }
    }

    public function test_grey_samples_say_nothing_about_the_hue(): void
    {
        $pick = Ranges::proposed(new Pick(), [new Sample(0, [0, 0], [0.5, 0.5, 0.5], true)], Transfer::Bt1886, 0.4);
        self::assertSame(360.0, $pick->hue[1]);
        self::assertSame(0.4, $pick->follow);
        self::assertSame([0.0, 360.0, 0.0], Ranges::proposed(new Pick(), [], Transfer::Bt1886, null)->hue);
    }

    public function test_a_piece_is_the_piece_of_the_whole(): void
    {
        $scene = Scene::noise(4);
        $matte = new PickMatte(new Pick(light: [0.3, 0.7, 0.1], specks: 0.05, holes: 0.04, blur: 0.02));
        $all = $scene->frame->format->rect();
        $whole = $matte->of($scene->frame->window($all), $all, 64, Transfer::Bt1886);
        $piece = Rect::of(30, 20, 17, 11);
        $part = $matte->of($scene->frame->window($piece->grow($matte->margin(64))->intersect($all)), $piece, 64, Transfer::Bt1886);
        self::assertEqualsWithDelta($whole->window($piece)->v, $part->v, 1e-12);
    }

    public function test_a_sample_to_leave_draws_the_range_in(): void
    {
        $sample = static fn(float $light, bool $taken): Sample => new Sample(0, [0.5, 0.5], self::colour($light, 0.07, 40.0), $taken);
        $wide = Ranges::proposed(new Pick(), [$sample(0.5, true), $sample(0.7, true)], Transfer::Bt1886, null);
        // Within the room that was left beyond the samples.
        $drawn = Ranges::proposed(new Pick(), [$sample(0.5, true), $sample(0.7, true), $sample(0.745, false)], Transfer::Bt1886, null);
        self::assertGreaterThan($drawn->light[1] + 0.01, $wide->light[1]);
        self::assertGreaterThanOrEqual(0.69, $drawn->light[1]);
    }

    /** The same skin sampled in two lights: together they are one lightness, not the whole span between. */
    public function test_samples_count_as_they_would_be_in_the_light_that_is_followed(): void
    {
        $grey = static fn(int $frame, float $v): Sample => new Sample($frame, [0, 0], [$v, $v, $v], true);
        $l = static fn(float $v): float => Ranges::colour($grey(0, $v), Transfer::Bt1886)[2];
        $samples = [$grey(3, 0.4), $grey(9, 0.6)];
        $span = static fn(Pick $pick): float => $pick->light[1] - $pick->light[0];
        $together = Ranges::proposed(new Pick(), $samples, Transfer::Bt1886, $l(0.4), [3 => $l(0.4), 9 => $l(0.6)]);
        $apart = Ranges::proposed(new Pick(), $samples, Transfer::Bt1886, null, [3 => $l(0.4), 9 => $l(0.6)]);
        self::assertEqualsWithDelta($span($apart) - ($l(0.6) - $l(0.4)), $span($together), 1e-9);
        self::assertEqualsWithDelta($l(0.4), ($together->light[0] + $together->light[1]) / 2, 1e-9);
    }
}
