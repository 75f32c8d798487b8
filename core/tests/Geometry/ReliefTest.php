<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Geometry;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Geometry\Relief;
use PHPUnit\Framework\TestCase;

final class ReliefTest extends TestCase
{
    private static function hill(float $x, float $y): float
    {
        return 0.2 * exp(-(($x - 0.6) ** 2 + ($y - 0.5) ** 2) / 0.08);
    }

    private static function relief(): Relief
    {
        return Relief::over(0.2, 0.0, 0.8, 1.0, self::hill(...));
    }

    public function test_depths_and_slopes_are_those_of_the_surface(): void
    {
        $relief = self::relief();
        for ($y = 0.1; $y < 0.95; $y += 0.07) {
            for ($x = 0.25; $x < 0.97; $x += 0.06) {
                self::assertEqualsWithDelta(self::hill($x, $y), $relief->depth($x, $y), 4e-4);
                [$u, $v] = $relief->slope($x, $y);
                self::assertEqualsWithDelta((self::hill($x + 1e-4, $y) - self::hill($x - 1e-4, $y)) / 2e-4, $u, 0.02);
                self::assertEqualsWithDelta((self::hill($x, $y + 1e-4) - self::hill($x, $y - 1e-4)) / 2e-4, $v, 0.02);
            }
        }
        // Beyond it the surface goes on level.
        self::assertSame($relief->depth(1.0, 0.5), $relief->depth(1.7, 0.5));
        self::assertSame([0.0, 0.0], $relief->slope(1.7, 2.0));
    }

    public function test_a_shift_along_the_depth_is_undone(): void
    {
        foreach ([[0.4, 0.0], [-0.5, 0.2], [0.1, -0.6]] as $shift) {
            foreach ([[0.5, 0.4], [0.62, 0.55], [0.75, 0.3], [0.1, 0.9]] as [$x, $y]) {
                $z = self::relief()->depth($x, $y);
                [$u, $v] = self::relief()->back($x + $shift[0] * $z, $y + $shift[1] * $z, $shift);
                self::assertEqualsWithDelta($x, $u, 1e-5);
                self::assertEqualsWithDelta($y, $v, 1e-5);
            }
        }
    }

    public function test_what_is_carried_lies_where_its_places_went(): void
    {
        $motion = Matrix::about(0.6, 0.5, 20, 0.8, 0.8, 0.1, -0.05);
        $shift = [0.3, -0.1];
        $carried = self::relief()->carried($motion, $shift);
        foreach ([[0.5, 0.4], [0.62, 0.55], [0.75, 0.3]] as [$x, $y]) {
            $z = self::hill($x, $y);
            self::assertEqualsWithDelta($z, $carried->depth(...$motion->apply($x + $shift[0] * $z, $y + $shift[1] * $z)), 1.5e-3);
        }
    }

    public function test_a_lattice_must_be_one(): void
    {
        $this->expectException(\InvalidArgumentException::class);
        new Relief(0, 0, 1, 1, 4, 4, [1.0]);
    }
}
