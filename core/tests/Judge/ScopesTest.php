<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Judge;

use Cossel\Core\Colour\Oklab;
use Cossel\Core\Colour\Transfer;
use Cossel\Core\Judge\AreaColours;
use Cossel\Core\Judge\Histogram;
use Cossel\Core\Judge\Vectorscope;
use Cossel\Core\Judge\Waveform;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use PHPUnit\Framework\TestCase;

final class ScopesTest extends TestCase
{
    public function test_the_primaries_stand_where_bt709_has_them(): void
    {
        // Cb, Cr of ITU-R BT.709: blue is furthest right, red furthest up, grey in the middle.
        $at = static function (float $r, float $g, float $b): array {
            $scope = new Vectorscope(200);
            $scope->add(Planes::filled(Rect::of(0, 0, 1, 1), $r, $g, $b));
            $i = array_search(1, $scope->counts(), true);

            return [($i % 200 + 0.5) / 200 - 0.5, 0.5 - (intdiv((int) $i, 200) + 0.5) / 200];
        };
        self::assertEqualsWithDelta([-0.1146, 0.5], $at(1, 0, 0), 0.006);
        self::assertEqualsWithDelta([0.5, -0.0458], $at(0, 0, 1), 0.006);
        self::assertEqualsWithDelta([-0.3854, -0.4542], $at(0, 1, 0), 0.006);
        self::assertEqualsWithDelta([0.0, 0.0], $at(0.4, 0.4, 0.4), 0.006);
        // Skin of any depth lies near its line.
        foreach ([[0.75, 0.57, 0.47], [0.35, 0.25, 0.2]] as $skin) {
            [$cb, $cr] = $at(...$skin);
            self::assertEqualsWithDelta(Vectorscope::SKIN, rad2deg(atan2($cr, $cb)), 14);
        }
    }

    public function test_counts_are_of_all_pixels_or_of_those_inside_a_matte(): void
    {
        $planes = new Planes(Rect::of(0, 0, 4, 1), [0.0, 0.5, 1.0, 2.0], [0.0, 0.5, 1.0, 2.0], [0.0, 0.5, 1.0, -1.0]);
        $half = new Grey(Rect::of(0, 0, 4, 1), [1.0, 1.0, 0.4, 0.0]);
        foreach ([[new Histogram(12), 4, 2], [new Vectorscope(16), 4, 2], [new Waveform(Rect::of(0, 0, 4, 1), 4, 12), 4, 2]] as [$meter, $all, $inside]) {
            $other = clone $meter;
            $meter->add($planes);
            $other->add($planes, $half);
            $sum = static fn(array $counts): int => array_sum(isset($counts['luma']) ? $counts['luma'] : $counts);
            self::assertSame([$all, $inside], [$sum($meter->counts()), $sum($other->counts())], $meter::class);
        }
        $histogram = new Histogram(12);
        $histogram->add($planes);
        self::assertSame(1, $histogram->counts()['red'][1]);
        self::assertSame(1, $histogram->counts()['blue'][0]);
        self::assertSame(2, $histogram->counts()['green'][11]);
    }

    public function test_the_parade_counts_each_channel(): void
    {
        $planes = Planes::filled(Rect::of(0, 0, 2, 2), 0.9, 0.5, 0.1);
        foreach ([[[1.0, 0.0, 0.0], 0.9], [[0.0, 1.0, 0.0], 0.5], [[0.0, 0.0, 1.0], 0.1]] as [$mix, $level]) {
            $wave = new Waveform(Rect::of(0, 0, 2, 2), 1, 120, $mix);
            $wave->add($planes);
            $row = (int) array_search(4, $wave->counts(), true);
            self::assertEqualsWithDelta($level, Waveform::TO - ($row + 0.5) / 120 * (Waveform::TO - Waveform::FROM), 0.006);
        }
    }

    public function test_an_areas_colours_are_its_own(): void
    {
        $rect = Rect::of(0, 0, 20, 10);
        $planes = Planes::filled($rect, 0.2, 0.3, 0.8);
        $matte = Grey::filled($rect, 0.0);
        for ($i = 0; $i < 100; ++$i) {
            [$planes->r[$i], $planes->g[$i], $planes->b[$i]] = [0.7, 0.5, 0.4];
            $matte->v[$i] = 1.0;
        }
        $colours = AreaColours::of($planes, $matte, Transfer::Bt1886);
        self::assertEqualsWithDelta([0.7, 0.5, 0.4], $colours->middle, 1e-9);
        [$l, $a, $b] = $colours->mean;
        self::assertSame(1.0, $colours->shares['hue'][(int) (rad2deg(atan2($b, $a)) / 5)]);
        self::assertSame(1.0, $colours->shares['light'][(int) ($l * 60)]);
        self::assertSame(100, $colours->levels['red'][42]);
        self::assertSame(100, array_sum($colours->levels['luma']));
    }

    public function test_zoom_carries_colours_further_from_the_middle(): void
    {
        $at = static function (float $zoom): array {
            $scope = new Vectorscope(200, $zoom);
            $scope->add(Planes::filled(Rect::of(0, 0, 1, 1), 0.6, 0.45, 0.4));
            $i = (int) array_search(1, $scope->counts(), true);

            return [$i % 200 + 0.5 - 100, 100 - intdiv($i, 200) - 0.5];
        };
        foreach ([2.0, 4.0] as $zoom) {
            self::assertEqualsWithDelta(array_map(static fn(float $v): float => $zoom * $v, $at(1.0)), $at($zoom), $zoom);
            self::assertGreaterThan(1.5 * hypot(...$at(1.0)), hypot(...$at($zoom)));
        }
    }

    public function test_hues_of_an_area_count_by_their_chroma(): void
    {
        // As many reddish pixels of little chroma as bluish ones of three times as much.
        $rect = Rect::of(0, 0, 2, 1);
        $colour = static fn(float $a, float $b): array => array_map(static fn(float $v): float => Transfer::Bt1886->code($v), Oklab::toLinear(0.6, $a, $b));
        [$red, $blue] = [$colour(0.03, 0.0), $colour(0.0, -0.09)];
        $hue = AreaColours::of(new Planes($rect, [$red[0], $blue[0]], [$red[1], $blue[1]], [$red[2], $blue[2]]), Grey::filled($rect, 1.0), Transfer::Bt1886)->shares['hue'];
        rsort($hue);
        self::assertEqualsWithDelta([1.0, 1 / 3, 0.0], array_slice($hue, 0, 3), 0.01);
    }
}
