<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Geometry;

use Cossel\Core\Geometry\Spline;
use Cossel\Core\Tests\Chance;
use PHPUnit\Framework\TestCase;

final class SplineTest extends TestCase
{
    public function test_it_goes_through_its_points_and_rises_where_they_do(): void
    {
        $random = Chance::seeded(2);
        for ($try = 0; $try < 40; ++$try) {
            $points = [[0.0, $random->between(0, 0.2)]];
            for ($i = 1; $i < 6; ++$i) {
                $points[] = [$points[$i - 1][0] + $random->between(0.05, 0.3), $points[$i - 1][1] + $random->between(0, 0.4)];
            }
            $curve = Spline::through($points);
            foreach ($points as [$x, $y]) {
                self::assertEqualsWithDelta($y, $curve->at($x), 1e-12);
            }
            for ($x = -0.1, $before = -INF; $x < $points[5][0] + 0.1; $x += 0.003) {
                self::assertGreaterThanOrEqual($before - 1e-12, $curve->at($x));
                $before = $curve->at($x);
            }
        }
    }

    public function test_points_on_a_line_give_the_line_also_beyond_its_ends(): void
    {
        $curve = Spline::through([[0.0, 0.1], [0.3, 0.4], [0.5, 0.6], [1.0, 1.1]]);
        foreach ([-0.5, 0.0, 0.17, 0.42, 0.9, 1.4] as $x) {
            self::assertEqualsWithDelta($x + 0.1, $curve->at($x), 1e-12);
        }
    }

    public function test_a_round_one_joins_its_ends(): void
    {
        $curve = Spline::round([[20.0, 0.5], [100.0, -0.2], [300.0, 0.3]], 360.0);
        self::assertEqualsWithDelta(0.5, $curve->at(20), 1e-12);
        self::assertEqualsWithDelta(0.5, $curve->at(380), 1e-12);
        foreach ([0.0, 10.0, 359.0] as $x) {
            self::assertEqualsWithDelta($curve->at($x), $curve->at($x + 360), 1e-12);
            self::assertEqualsWithDelta($curve->at($x - 1e-4), $curve->at($x + 1e-4), 1e-4);
        }
        self::assertSame(0.7, Spline::round([[50.0, 0.7]], 360.0)->at(200));
    }

    public function test_it_never_leaves_the_range_of_the_points_beside_it(): void
    {
        $random = Chance::seeded(5);
        for ($try = 0; $try < 60; ++$try) {
            $points = [[0.0, $random->between(0, 1)]];
            for ($i = 1; $i < 6; ++$i) {
                $points[] = [$points[$i - 1][0] + $random->between(0.05, 0.3), $random->between(0, 1)];
            }
            $curve = Spline::through($points);
            for ($i = 0; $i < 5; ++$i) {
                [[$x0, $y0], [$x1, $y1]] = [$points[$i], $points[$i + 1]];
                for ($t = 0.05; $t < 1; $t += 0.1) {
                    $y = $curve->at($x0 + ($x1 - $x0) * $t);
                    self::assertGreaterThanOrEqual(min($y0, $y1) - 1e-12, $y);
                    self::assertLessThanOrEqual(max($y0, $y1) + 1e-12, $y);
                }
            }
        }
    }

    public function test_a_round_one_has_no_kink_where_it_joins(): void
    {
        foreach ([[[30.0, 0.1], [120.0, 0.4], [300.0, 0.9]], [[10.0, 0.8], [200.0, 0.5], [330.0, -0.3]]] as $points) {
            $curve = Spline::round($points, 360.0);
            foreach (array_column($points, 0) as $x) {
                $left = ($curve->at($x) - $curve->at($x - 1e-5)) / 1e-5;
                $right = ($curve->at($x + 1e-5) - $curve->at($x)) / 1e-5;
                self::assertEqualsWithDelta($left, $right, 1e-6, "at {$x}");
            }
        }
    }

    public function test_a_point_a_whole_period_on_is_the_first_again(): void
    {
        $points = [[0.0, 0.2], [120.0, -0.4], [250.0, 0.6]];
        $spline = Spline::round($points, 360.0);
        $again = Spline::round([...$points, [360.0, 0.9]], 360.0);
        for ($x = 0.0; $x <= 360.0; $x += 7.5) {
            self::assertSame($spline->at($x), $again->at($x));
        }
    }
}
