<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Motion;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Motion\Bridge;
use Cossel\Core\Motion\Gap;
use Cossel\Core\Motion\State;
use Cossel\Core\Motion\Step;
use PHPUnit\Framework\TestCase;

final class BridgeTest extends TestCase
{
    /**
     * @param callable(int): float $x
     *
     * @return array<int, Step> of frames 0 to 20, straight between 6 and 14
     */
    private static function steps(callable $x): array
    {
        $at = static fn(int $f): Matrix => Matrix::move($x($f), 2 * $x($f));
        $steps = [];
        for ($f = 0; $f <= 20; ++$f) {
            $hidden = $f > 6 && $f < 14;
            $steps[$f] = new Step(
                $hidden ? Gap::mixed($at(6), $at(14), ($f - 6) / 8) : $at($f),
                $hidden ? State::Bridged : State::Followed,
                $hidden ? 0.0 : 0.9,
                depth: [$hidden ? $x(6) + ($x(14) - $x(6)) * ($f - 6) / 8 : $x($f), 0.0],
            );
        }

        return $steps;
    }

    public function test_it_goes_in_and_comes_out_with_the_speed_that_was_seen(): void
    {
        // Up and back: a straight line stays where it went in.
        $x = static fn(int $f): float => 0.5 - 0.004 * ($f - 10) ** 2;
        $smooth = Bridge::smooth(self::steps($x));
        self::assertSame(range(0, 20), array_keys($smooth));
        foreach (range(7, 13) as $f) {
            self::assertSame([State::Bridged, 0.0], [$smooth[$f]->state, $smooth[$f]->confidence]);
            self::assertEqualsWithDelta($x($f), $smooth[$f]->matrix->m[2], 0.02, "frame {$f}");
            self::assertEqualsWithDelta(2 * $x($f), $smooth[$f]->matrix->m[5], 0.04);
            self::assertEqualsWithDelta($x($f), $smooth[$f]->depth[0], 0.02);
        }
        self::assertEquals(self::steps($x)[3], $smooth[3]);
        // Even motion stays even.
        foreach (Bridge::smooth(self::steps(static fn(int $f): float => 0.03 * $f)) as $f => $step) {
            self::assertEqualsWithDelta(0.03 * $f, $step->matrix->m[2], 1e-9);
        }
    }

    public function test_what_was_never_seen_again_stays_as_it_is(): void
    {
        $steps = array_slice(self::steps(static fn(int $f): float => 0.01 * $f * $f), 0, 12, true);
        self::assertEquals($steps, Bridge::smooth($steps));
        // Seen on one frame only on either side, it goes straight.
        $steps = array_slice(self::steps(static fn(int $f): float => 0.01 * $f * $f), 6, 9, true);
        foreach (Bridge::smooth($steps) as $f => $step) {
            self::assertEqualsWithDelta($steps[$f]->matrix->m, $step->matrix->m, 1e-9);
        }
    }
}
