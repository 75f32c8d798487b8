<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Picture;

use Cossel\Core\Picture\Rect;
use Cossel\Core\Tests\Chance;
use PHPUnit\Framework\TestCase;

final class RectTest extends TestCase
{
    public function test_real_edges_are_rounded_outwards(): void
    {
        self::assertTrue(Rect::around(0.2, -0.1, 3.0, 2.01)->equals(Rect::of(0, -1, 3, 4)));
    }

    public function test_rectangles_that_do_not_meet_have_an_empty_intersection(): void
    {
        self::assertTrue(Rect::of(0, 0, 4, 4)->intersect(Rect::of(4, 0, 4, 4))->isEmpty());
        self::assertTrue(Rect::of(0, 0, 4, 4)->union(Rect::none())->equals(Rect::of(0, 0, 4, 4)));
    }

    public function test_overlapping_ones_are_merged_until_all_are_apart(): void
    {
        $random = Chance::seeded(3);
        for ($try = 0; $try < 200; ++$try) {
            $rects = [];
            for ($i = 0; $i < 7; ++$i) {
                $rects[] = Rect::of($random->whole(0, 40), $random->whole(0, 40), $random->whole(0, 15), $random->whole(0, 15));
            }
            $apart = Rect::apart($rects);
            foreach ($apart as $i => $a) {
                foreach ($apart as $j => $b) {
                    self::assertTrue($i === $j || $a->intersect($b)->isEmpty());
                }
            }
            foreach ($rects as $rect) {
                self::assertTrue($rect->isEmpty() || array_filter($apart, static fn(Rect $a): bool => $a->contains($rect)) !== []);
            }
        }
    }

    public function test_bands_cover_a_rectangle_exactly(): void
    {
        $rect = Rect::of(3, 5, 10, 23);
        $bands = $rect->bands(8);
        self::assertSame([8, 8, 7], array_map(static fn(Rect $band): int => $band->height, $bands));
        self::assertTrue(array_reduce($bands, static fn(Rect $all, Rect $band): Rect => $all->union($band), Rect::none())->equals($rect));
    }
}
