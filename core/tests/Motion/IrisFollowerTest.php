<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Motion;

use Cossel\Core\Motion\IrisFollower;
use Cossel\Core\Motion\State;
use Cossel\Core\Motion\TooLittleTexture;
use Cossel\Core\Outline\AreaMatte;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\Outline;
use Cossel\Core\Tests\Still;
use PHPUnit\Framework\TestCase;

final class IrisFollowerTest extends TestCase
{
    /** Centre and radius of the iris, pixels. @return array{float, float, float} */
    private static function truth(int $f): array
    {
        return [100 + 2.3 * $f, 80 - 0.9 * $f + ($f >= 5 ? 9 : 0), 24 + 0.25 * $f];
    }

    /** An eye whose lids close on some frames, with the light going down. */
    private static function eye(int ...$closed): Painted
    {
        return new Painted(static function (int $f, float $x, float $y) use ($closed): array {
            [$cx, $cy, $r] = self::truth($f);
            $light = 1 - 0.02 * $f;
            // Lids cut the iris above and below, the opening is an ellipse.
            $open = in_array($f, $closed, true) ? 0.0 : 1.0;
            $lid = $open > 0 && (($x - $cx) / (2.6 * $r)) ** 2 + (($y - $cy) / (0.8 * $r)) ** 2 < 1;
            $d = hypot($x - $cx, $y - $cy);
            [$red, $green, $blue] = match (true) {
                !$lid => [0.78 + 0.02 * sin($x * 0.3), 0.62, 0.55],
                $d < 0.4 * $r => [0.04, 0.04, 0.05],
                $d < $r => [0.32 + 0.05 * sin(9 * atan2($y - $cy, $x - $cx)), 0.22, 0.12],
                default => [0.86, 0.86, 0.85],
            };

            return [$light * $red, $light * $green, $light * $blue];
        });
    }

    private static function circle(float $x, float $y, float $r): AreaMatte
    {
        return Still::matte(new Outline(0, [new Ellipse('s', [$x / 160, $y / 160], [$r / 160, $r / 160])]), self::eye()->frame());
    }

    public function test_centre_and_radius_are_found_to_a_fraction_of_a_pixel_through_a_glance_and_dimming(): void
    {
        $steps = iterator_to_array(IrisFollower::from(self::eye(), 0, self::circle(101, 79, 25))->to(9));
        [$x0, $y0, $r0] = self::truth(0);
        foreach ($steps as $f => $step) {
            [$x, $y, $r] = self::truth($f);
            [$u, $v] = $step->matrix->inPixels(160)->apply($x0, $y0);
            self::assertLessThan(0.6, hypot($u - $x, $v - $y), "frame {$f}");
            self::assertEqualsWithDelta($r / $r0, $step->matrix->scale(), 0.03, "frame {$f}");
            self::assertGreaterThan(0.8, $step->open, "frame {$f}");
        }
        self::assertSame(State::Set, $steps[0]->state);
        self::assertSame(State::Followed, $steps[9]->state);
    }

    public function test_closed_lids_are_told_and_bridged(): void
    {
        $steps = [];
        foreach (IrisFollower::from(self::eye(3, 4), 0, self::circle(100, 80, 24))->to(8) as $f => $step) {
            $steps[$f] = $step;
        }
        foreach ($steps as $f => $step) {
            if ($f === 3 || $f === 4) {
                self::assertSame(State::Bridged, $step->state);
                self::assertLessThan(0.15, $step->open);
                self::assertSame(0.0, $step->confidence);
            } else {
                self::assertGreaterThan(0.8, $step->open, "frame {$f}");
            }
        }
        [$u, $v] = $steps[8]->matrix->inPixels(160)->apply(...array_slice(self::truth(0), 0, 2));
        self::assertLessThan(0.6, hypot($u - self::truth(8)[0], $v - self::truth(8)[1]));
    }

    public function test_where_there_is_no_iris_it_says_so(): void
    {
        $flat = new Painted(static fn(): array => [0.7, 0.6, 0.5]);
        $this->expectException(TooLittleTexture::class);
        $this->expectExceptionMessage('no round edge of an iris');
        IrisFollower::from($flat, 0, self::circle(100, 80, 24));
    }
}
