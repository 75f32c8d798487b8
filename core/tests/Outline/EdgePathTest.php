<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Outline;

use Cossel\Core\Outline\Contour;
use Cossel\Core\Outline\CurveFit;
use Cossel\Core\Outline\EdgePath;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Tests\Motion\Painted;
use PHPUnit\Framework\TestCase;

final class EdgePathTest extends TestCase
{
    public function test_the_way_between_two_clicks_keeps_to_the_edge(): void
    {
        // A disc, with a weaker edge across the straight way between the clicks.
        $picture = new Painted(static fn(int $f, float $x, float $y): array => hypot($x - 120, $y - 80) < 50 ? [0.7, 0.4, 0.3] : ($x > 118 ? [0.33, 0.35, 0.3] : [0.3, 0.32, 0.3]));
        [$from, $to] = [[120 - 50.0, 80.0], [120 + 48.0, 82.0]];
        $window = EdgePath::window($from, $to, $picture->frame());
        $points = EdgePath::between($picture->colour(0, $window), $from, $to);
        self::assertLessThan(9, count($points));
        self::assertEqualsWithDelta(50.0, hypot($points[count($points) - 1]->x - 120, $points[count($points) - 1]->y - 80), 1.6);
        for ($i = 0; $i + 1 < count($points); ++$i) {
            for ($t = 0.0; $t < 1.0; $t += 0.1) {
                [$x, $y] = Contour::on($points[$i], $points[$i + 1], $t);
                self::assertEqualsWithDelta(50.0, hypot($x - 120, $y - 80), 2.2);
            }
        }
    }

    public function test_where_there_is_no_edge_it_goes_straight(): void
    {
        $points = EdgePath::between(Planes::filled(Rect::of(0, 0, 100, 60), 0.4, 0.4, 0.4), [10.5, 30.5], [90.5, 30.5]);
        foreach ($points as $p) {
            self::assertEqualsWithDelta(30.5, $p->y, 0.01);
        }
    }

    public function test_many_points_are_fitted_by_few_pieces_within_the_tolerance(): void
    {
        $line = [];
        for ($i = 0; $i <= 120; ++$i) {
            $line[] = [$i, 20 * sin($i / 18) + 8 * cos($i / 7)];
        }
        $points = CurveFit::open($line, 0.5);
        self::assertLessThan(20, count($points));
        foreach ($line as [$x, $y]) {
            $least = INF;
            for ($i = 0; $i + 1 < count($points); ++$i) {
                for ($t = 0.0; $t <= 1.0; $t += 0.01) {
                    [$u, $v] = Contour::on($points[$i], $points[$i + 1], $t);
                    $least = min($least, hypot($u - $x, $v - $y));
                }
            }
            self::assertLessThan(0.6, $least);
        }
    }
}
