<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Outline;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Outline\Contour;
use Cossel\Core\Outline\ContourMatte;
use Cossel\Core\Outline\Pose;
use Cossel\Core\Outline\Warp;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Box;
use Cossel\Core\Recipe\Path;
use Cossel\Core\Recipe\PathPoint;
use PHPUnit\Framework\TestCase;

final class WarpTest extends TestCase
{
    /** @return list<PathPoint> a diamond with round sides */
    private static function diamond(float $wide = 0.3): array
    {
        return [
            new PathPoint(0.8, 0.2, -0.1, 0, 0.1, 0),
            new PathPoint(0.8 + $wide, 0.5, 0, -0.1, 0, 0.1),
            new PathPoint(0.8, 0.8, 0.1, 0, -0.1, 0),
            new PathPoint(0.8 - $wide, 0.5, 0, 0.1, 0, -0.1),
        ];
    }

    public function test_the_followed_path_itself_goes_exactly_where_its_points_went(): void
    {
        $wider = self::diamond(0.5);
        foreach ((new Warp(self::diamond(), $wider))->path(self::diamond()) as $i => $p) {
            self::assertEqualsWithDelta(get_object_vars($wider[$i]), get_object_vars($p), 1e-12);
        }
    }

    public function test_a_path_drawn_otherwise_near_it_keeps_its_distance(): void
    {
        $inner = array_map(static fn(PathPoint $p): PathPoint => new PathPoint(0.8 + 0.9 * ($p->x - 0.8), 0.5 + 0.9 * ($p->y - 0.5), $p->inX, $p->inY, $p->outX, $p->outY), self::diamond());
        $moved = (new Warp(self::diamond(), self::diamond(0.5)))->path($inner);
        self::assertEqualsWithDelta(0.5 - 0.03, $moved[1]->x - 0.8, 1e-9);
        self::assertEqualsWithDelta(0.23, $moved[0]->y, 1e-9);
    }

    public function test_a_warped_and_moved_path_draws_the_path_that_was_meant(): void
    {
        $frame = Rect::of(0, 0, 320, 180);
        $motion = Matrix::about(0.8, 0.5, 12, 0.9, 0.9, 0.05, -0.02);
        $warped = ContourMatte::on(new Path('s', self::diamond(), 0.02, 0.05), new Pose($motion, new Warp(self::diamond(), self::diamond(0.45))), 180)->matte($frame);
        $meant = ContourMatte::on(new Path('s', array_map(static fn(PathPoint $p): PathPoint => $p->moved($motion), self::diamond(0.45)), 0.02 * 0.9, 0.05 * 0.9), Pose::still(), 180)->matte($frame);
        foreach ($meant->v as $i => $v) {
            self::assertEqualsWithDelta($v, $warped->v[$i], 0.005);
        }
    }

    public function test_a_contour_stays_within_its_tolerance(): void
    {
        $path = new Path('s', self::diamond());
        foreach ([0.5, 0.05] as $tolerance) {
            $contour = Contour::of($path, Pose::still(), 1000, $tolerance);
            $worst = 0.0;
            foreach (self::diamond() as $i => $a) {
                for ($t = 0.0; $t < 1.0; $t += 0.01) {
                    [$x, $y] = Contour::on($a, self::diamond()[($i + 1) % 4], $t);
                    $least = INF;
                    foreach ($contour->x as $k => $px) {
                        $n = ($k + 1) % count($contour->x);
                        [$dx, $dy] = [$contour->x[$n] - $px, $contour->y[$n] - $contour->y[$k]];
                        $s = max(0.0, min(1.0, ((1000 * $x - $px) * $dx + (1000 * $y - $contour->y[$k]) * $dy) / ($dx * $dx + $dy * $dy)));
                        $least = min($least, hypot(1000 * $x - $px - $s * $dx, 1000 * $y - $contour->y[$k] - $s * $dy));
                    }
                    $worst = max($worst, $least);
                }
            }
            self::assertLessThan($tolerance, $worst);
        }
    }

    public function test_a_square_box_is_four_straight_sides(): void
    {
        $contour = Contour::of(new Box('s', [0.8, 0.5], [0.3, 0.2]), Pose::still(), 100, 0.01);
        self::assertEqualsWithDelta([110, 50, 50, 110], $contour->x, 1e-9);
        self::assertEqualsWithDelta([70, 70, 30, 30], $contour->y, 1e-9);
    }

    public function test_handles_grow_with_what_was_followed(): void
    {
        $grown = array_map(static fn(PathPoint $p): PathPoint => new PathPoint($p->x, $p->y, 1.5 * $p->inX, 1.5 * $p->inY, 1.5 * $p->outX, 1.5 * $p->outY), self::diamond());
        foreach ((new Warp(self::diamond(), $grown))->path(self::diamond()) as $i => $p) {
            self::assertEqualsWithDelta([$grown[$i]->inX, $grown[$i]->inY, $grown[$i]->outX, $grown[$i]->outY], [$p->inX, $p->inY, $p->outX, $p->outY], 1e-12);
        }
    }
}
