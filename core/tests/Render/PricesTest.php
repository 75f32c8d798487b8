<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Render;

use Cossel\Core\Motion\Motions;
use Cossel\Core\Outline\AreaMatte;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\FrameFormat;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Render\FrameRenderer;
use Cossel\Core\Render\Prices;
use Cossel\Core\Tests\Documents;
use Cossel\Core\Touch\Kinds;
use PHPUnit\Framework\TestCase;

/** What a frame is said to take beforehand: in proportion to what is done. */
final class PricesTest extends TestCase
{
    private const HALF = ['outline' => ['at' => 0, 'shapes' => [['id' => 's1', 'kind' => 'box', 'centre' => [0.44, 0.5], 'radii' => [0.44, 0.5]]]]];

    public function test_every_kind_has_a_price(): void
    {
        self::assertEqualsCanonicalizing(Kinds::all()->names(), Prices::known());
    }

    public function test_it_grows_with_what_is_touched_and_how_often(): void
    {
        $none = self::seconds([]);
        $once = self::seconds(self::touches('blur', 1)) - $none;
        self::assertGreaterThan(0.0, $once);
        self::assertEqualsWithDelta(3 * $once, self::seconds(self::touches('blur', 3)) - $none, 0.8 * $once);
        self::assertGreaterThan(5 * (self::seconds(self::touches('exposure', 1)) - $none), $once);
        self::assertEqualsWithDelta(2 * self::seconds([], Rect::of(0, 0, 160, 42)), self::seconds([], Rect::of(0, 0, 160, 90)), 0.1 * $none);
        // The other half of the frame is not touched.
        self::assertEqualsWithDelta($none / 2, self::seconds(self::touches('exposure', 9), Rect::of(90, 0, 70, 90)), 0.15 * $none);
    }

    public function test_outlines_of_many_points_cost_more_than_of_few(): void
    {
        $path = static fn(int $n): array => ['outline' => ['at' => 0, 'shapes' => [['id' => 's1', 'kind' => 'path', 'points' => array_map(static fn(int $i): array => ['at' => [0.8 + 0.4 * cos(2 * M_PI * $i / $n), 0.5 + 0.4 * sin(2 * M_PI * $i / $n)]], range(1, $n))]]]];
        $none = self::seconds([]);
        self::assertGreaterThan(1.5 * (self::seconds($path(10) + Documents::area()) - $none), self::seconds($path(500) + Documents::area()) - $none);
    }

    /** What looks far goes through far more than a small area; wherever on the frame that lies. */
    public function test_a_wide_touch_in_a_small_area_costs_what_it_goes_through(): void
    {
        $small = static fn(float $y, float $radius): array => Documents::area(['touches' => [['id' => 't', 'kind' => 'blur', 'radius' => $radius]], 'outline' => ['at' => 0, 'shapes' => [['id' => 's1', 'kind' => 'box', 'centre' => [0.8, $y], 'radii' => [0.05, 0.05]]]]]);
        $none = self::seconds([]);
        foreach ([0.1, 0.3, 0.5, 0.7, 0.9] as $y) {
            self::assertGreaterThan(10 * (self::seconds($small($y, 0.001)) - $none), self::seconds($small($y, 0.1)) - $none, (string) $y);
        }
    }

    /** Of a small outline hardly a piece can be left out as too far, whatever pixel is asked. */
    public function test_a_small_outline_costs_more_a_pixel_and_point_than_a_large_one(): void
    {
        $a_pixel = static function (float $r): float {
            $path = Documents::area(['outline' => ['at' => 0, 'shapes' => [['id' => 's1', 'kind' => 'path', 'featherOut' => 0.01, 'points' => array_map(static fn(int $i): array => ['at' => [0.9 + $r * cos(M_PI * $i / 100), 0.5 + $r * sin(M_PI * $i / 100)]], range(1, 200))]]]]);
            $recipe = Documents::read(['areas' => [$path]]);

            return AreaMatte::on($recipe->areas[0], 0, new Motions($recipe, []), Rect::of(0, 0, 1920, 1080))->price();
        };
        self::assertEqualsWithDelta(20 * 200 + 200, $a_pixel(0.01), 1);
        self::assertGreaterThan(9 * $a_pixel(0.2), $a_pixel(0.01));
    }

    public function test_what_has_to_be_seen_in_bands_before_costs_what_comes_before_once_more(): void
    {
        $area = self::touches('even', 1);
        $area['touches'][0]['tone'] = 0.5;
        $first = Documents::area(['id' => 'first', 'touches' => [['id' => 'b', 'kind' => 'blur', 'radius' => 0.01]]] + self::HALF);
        $first['outline']['shapes'][0]['id'] = 's0';
        $both = ['areas' => [$first, $area]];
        self::assertGreaterThan(1.9 * self::price($both, 1_000_000), self::price($both, 2000));
    }

    /** @return array<string, mixed> an area over the left half with so many touches of a kind */
    private static function touches(string $kind, int $n): array
    {
        $settings = ['blur' => ['radius' => 0.001], 'exposure' => ['stops' => 1], 'even' => []][$kind];

        return Documents::area(['touches' => array_map(static fn(int $k): array => ['id' => "t{$k}", 'kind' => $kind, ...$settings], range(1, $n))] + self::HALF);
    }

    /** @param array<string, mixed> $area */
    private static function seconds(array $area, ?Rect $rect = null): float
    {
        return self::price(['areas' => $area === [] ? [] : [$area]], 1_000_000, $rect);
    }

    /** @param array<string, mixed> $changes */
    private static function price(array $changes, int $pixels, ?Rect $rect = null): float
    {
        $recipe = Documents::read($changes);
        $frame = new Frame(new FrameFormat(160, 90), str_repeat(pack('v', 30000), 3 * 160 * 90));

        return (new FrameRenderer($recipe, new Motions($recipe, []), pixels: $pixels))->seconds($frame, 0, $rect ?? $frame->format->rect());
    }
}
