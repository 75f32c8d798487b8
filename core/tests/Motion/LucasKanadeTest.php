<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Motion;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Motion\LucasKanade;
use Cossel\Core\Picture\Rect;
use PHPUnit\Framework\TestCase;

final class LucasKanadeTest extends TestCase
{
    public function test_a_shifted_and_relit_patch_is_found_to_a_tenth_of_a_pixel(): void
    {
        $source = new MovingTexture(static fn(int $f): Matrix => Matrix::move(1.37 * $f, -0.82 * $f), static fn(int $f): float => 1 - 0.3 * $f);
        $rect = Rect::of(60, 30, 120, 100);
        $patch = LucasKanade::patch($source->luma(0, $rect), 115.5, 82.5, 7);
        self::assertNotNull($patch);
        $hit = LucasKanade::find($patch, 7, $source->luma(1, $rect), 115.5, 82.5, [1.0, 0.0, 0.0, 1.0], 20);
        self::assertNotNull($hit);
        self::assertEqualsWithDelta(116.87, $hit[0], 0.1);
        self::assertEqualsWithDelta(81.68, $hit[1], 0.1);
        self::assertGreaterThan(0.99, $hit[2]);
    }

    public function test_there_is_no_patch_at_the_edge_or_without_texture(): void
    {
        $source = new MovingTexture(static fn(int $f): Matrix => Matrix::identity(), covered: [0]);
        $rect = Rect::of(60, 30, 120, 100);
        self::assertNull(LucasKanade::patch($source->luma(0, $rect), 61.0, 82.5, 7));
        self::assertNull(LucasKanade::patch($source->luma(0, $rect), 120.5, 80.5, 7));
    }
}
