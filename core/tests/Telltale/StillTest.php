<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Telltale;

use Cossel\Core\Geometry\Extent;
use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Geometry\Parallax;
use Cossel\Core\Geometry\Relief;
use Cossel\Core\Geometry\TurnedSurface;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Telltale\Still;
use Cossel\Core\Tests\Motion\TurningBall;
use PHPUnit\Framework\TestCase;

final class StillTest extends TestCase
{
    private const CELLS = 12;

    /** @return list<float> what is held still on the ball's middle when it has turned, flat or over its relief */
    private static function cells(float $angle, bool $bent): array
    {
        $radius = TurningBall::RADIUS / 160;
        $relief = Relief::over(0.35, 0.1, 0.8, 0.8, static fn(float $x, float $y): float => sqrt(max(0.0, $radius ** 2 - ($x - 0.75) ** 2 - ($y - 0.5) ** 2)));
        $motion = Matrix::of([cos($angle), 0, 0.75 * (1 - cos($angle)), 0, 1, 0, 0, 0, 1]);
        $parallax = new Parallax($relief, tan($angle), 0.0);
        $still = Still::round(
            new Extent($motion->times($parallax->affineAt(0.75, 0.5)), 0.75, 0.5, 0.2, 0.2),
            160,
            self::CELLS,
            1.0,
            0.1,
            $bent ? new TurnedSurface($motion, $parallax) : null,
        );
        $rect = $still->rect(Rect::of(0, 0, 240, 160));

        return $still->means((new TurningBall(static fn(): float => $angle))->luma(1, $rect)->v, array_fill(0, $rect->count(), 1.0), $rect, 1.0);
    }

    public function test_a_ball_is_held_still_over_its_relief_as_it_is_not_when_taken_for_flat(): void
    {
        $off = [];
        foreach ([true, false] as $bent) {
            $before = self::cells(0.0, $bent);
            $after = self::cells(0.35, $bent);
            self::assertCount(self::CELLS ** 2, $after);
            $off[] = array_sum(array_map(static fn(float $a, float $b): float => abs($a - $b), $before, $after)) / count($before);
        }
        self::assertLessThan(0.02, $off[0]);
        self::assertLessThan(0.4 * $off[1], $off[0]);
    }
}
