<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Picture;

use Cossel\Core\Picture\AreaPicture;
use Cossel\Core\Picture\Blocks;
use Cossel\Core\Picture\Gaussian;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Normalised;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Tests\Chance;
use PHPUnit\Framework\TestCase;

final class BlocksTest extends TestCase
{
    public function test_means_are_of_whole_and_of_short_blocks(): void
    {
        $blocks = new Blocks(Rect::of(5, 7, 5, 4), 3);
        self::assertSame([2, 2], [$blocks->width, $blocks->height]);
        $means = $blocks->means(range(0.0, 19.0));
        self::assertEqualsWithDelta([6.0, 8.5, 16.0, 18.5], $means, 1e-12);
        self::assertEqualsWithDelta([2.5, 2.5, 2.5, 2.5], $blocks->means(array_fill(0, 20, 2.5)), 1e-12);
    }

    public function test_reading_back_a_slope_gives_the_slope_and_pieces_of_it_the_piece(): void
    {
        $rect = Rect::of(-3, 2, 40, 24);
        $blocks = new Blocks($rect, 4);
        $slope = [];
        foreach (range(2, 25) as $y) {
            foreach (range(-3, 36) as $x) {
                $slope[] = 0.1 * $x - 0.2 * $y;
            }
        }
        $inner = Rect::of(2, 6, 28, 14);
        $back = $blocks->over($blocks->means($slope), $inner);
        foreach ((new Grey($rect, $slope))->window($inner)->v as $i => $v) {
            self::assertEqualsWithDelta($v, $back[$i], 1e-9);
        }
    }

    public function test_wide_blurs_on_blocks_are_as_wide_as_they_should_be(): void
    {
        $size = 121;
        $v = array_fill(0, $size * $size, 0.0);
        $v[60 * $size + 60] = 1.0;
        $all = array_fill(0, $size * $size, 1.0);
        foreach ([6.0, 9.0, 14.0] as $sigma) {
            $blurred = Normalised::over($all, $size, $size, $sigma)->blur($v);
            $variance = $sum = 0.0;
            foreach ($blurred as $i => $k) {
                $variance += $k * ($i % $size - 60) ** 2;
                $sum += $k;
            }
            self::assertEqualsWithDelta($sigma, sqrt($variance / $sum), 0.04 * $sigma, "sigma {$sigma}");
            self::assertEqualsWithDelta(max(Gaussian::values($v, $size, $size, $sigma)), max($blurred), 0.08 / $sigma ** 2);
        }
    }

    public function test_a_picture_of_an_area_in_bands_is_that_of_the_whole(): void
    {
        $random = Chance::seeded(6);
        $rect = Rect::of(3, 5, 50, 40);
        $noise = static fn(): array => array_map(static fn(): float => $random->between(0, 1), range(1, 2000));
        $planes = new Planes($rect, $noise(), $noise(), $noise());
        $matte = new Grey($rect, $noise());
        foreach ([1, 3] as $side) {
            $whole = AreaPicture::of($rect, $side, $planes, $matte);
            $bands = AreaPicture::gathered($rect, $side, array_map(static fn(Rect $band): array => [$planes->window($band), $matte->window($band)], $rect->bands(6 * $side)));
            self::assertEqualsWithDelta([$whole->planes->r, $whole->planes->b, $whole->matte->v], [$bands->planes->r, $bands->planes->b, $bands->matte->v], 1e-12);
            self::assertSame([$side, Rect::of(0, 0, (int) ceil(50 / $side), (int) ceil(40 / $side))->count()], [$bands->blocks->side, count($bands->planes->g)]);
            self::assertSame(array_sum(array_map(static fn(array $p): int => $p[0]->rect->count(), $whole->pieces)), array_sum(array_map(static fn(array $p): int => $p[0]->rect->count(), $bands->pieces)));
        }
    }
}
