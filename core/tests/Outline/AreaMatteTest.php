<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Outline;

use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\Join;
use Cossel\Core\Recipe\Outline;
use Cossel\Core\Tests\Still;
use PHPUnit\Framework\TestCase;

final class AreaMatteTest extends TestCase
{
    private static function ellipse(float $x, Join $join, float $opacity = 1.0): Ellipse
    {
        return new Ellipse('s', [$x, 0.5], [0.2, 0.2], 0, 0.05, 0.05, 0, $opacity, $join);
    }

    public function test_shapes_join_as_the_formulas_say(): void
    {
        $frame = Rect::of(0, 0, 160, 100);
        $matte = static fn(Ellipse ...$shapes): array => Still::matte(new Outline(0, array_values($shapes)), $frame)->matte($frame)->v;
        $a = $matte(self::ellipse(0.7, Join::Add));
        $b = $matte(self::ellipse(0.9, Join::Add, 0.8));
        $added = $matte(self::ellipse(0.7, Join::Add), self::ellipse(0.9, Join::Add, 0.8));
        $cut = $matte(self::ellipse(0.7, Join::Add), self::ellipse(0.9, Join::Cut, 0.8));
        $kept = $matte(self::ellipse(0.7, Join::Add), self::ellipse(0.9, Join::Keep, 0.8));
        foreach ($a as $i => $v) {
            self::assertEqualsWithDelta(1 - (1 - $v) * (1 - $b[$i]), $added[$i], 1e-12);
            self::assertEqualsWithDelta($v * (1 - $b[$i]), $cut[$i], 1e-12);
            self::assertEqualsWithDelta($v * $b[$i], $kept[$i], 1e-12);
        }
    }

    public function test_an_inverted_outline_reaches_over_the_whole_frame(): void
    {
        $frame = Rect::of(0, 0, 160, 100);
        $matte = Still::matte(new Outline(0, [self::ellipse(0.8, Join::Add)], true), $frame);
        self::assertTrue($matte->bounds()->equals($frame));
        self::assertSame(1.0, $matte->matte($frame)->at(0, 0));
        self::assertSame(0.0, $matte->matte($frame)->at(80, 50));
    }
}
