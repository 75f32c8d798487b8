<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Outline;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Outline\ContourMatte;
use Cossel\Core\Outline\EllipseMatte;
use Cossel\Core\Outline\Pose;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Box;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\Path;
use Cossel\Core\Recipe\PathPoint;
use Cossel\Core\Tests\Chance;
use PHPUnit\Framework\TestCase;

final class ContourMatteTest extends TestCase
{
    private const HEIGHT = 90;

    /**
     * The edge in tiny steps, by De Casteljau's construction: no idea in common with the way that is tested.
     *
     * @param list<PathPoint> $points
     *
     * @return list<array{float, float}>
     */
    private static function walked(array $points, int $steps): array
    {
        $line = [];
        $between = static fn(array $p, array $q, float $t): array => [$p[0] + ($q[0] - $p[0]) * $t, $p[1] + ($q[1] - $p[1]) * $t];
        foreach ($points as $i => $a) {
            $b = $points[($i + 1) % count($points)];
            $controls = [[$a->x, $a->y], [$a->x + $a->outX, $a->y + $a->outY], [$b->x + $b->inX, $b->y + $b->inY], [$b->x, $b->y]];
            for ($k = 0; $k < $steps; ++$k) {
                $level = $controls;
                while (count($level) > 1) {
                    $next = [];
                    for ($j = 0; $j + 1 < count($level); ++$j) {
                        $next[] = $between($level[$j], $level[$j + 1], $k / $steps);
                    }
                    $level = $next;
                }
                $line[] = [$level[0][0] * self::HEIGHT, $level[0][1] * self::HEIGHT];
            }
        }

        return $line;
    }

    /** @param list<array{float, float}> $line distance to it, negative where it goes round the point an odd number of times */
    private static function distance(array $line, float $x, float $y): float
    {
        $least = INF;
        $angle = 0.0;
        [$px, $py] = $line[count($line) - 1];
        foreach ($line as [$qx, $qy]) {
            $least = min($least, ($qx - $x) ** 2 + ($qy - $y) ** 2);
            $angle += atan2(($px - $x) * ($qy - $y) - ($py - $y) * ($qx - $x), ($px - $x) * ($qx - $x) + ($py - $y) * ($qy - $y));
            [$px, $py] = [$qx, $qy];
        }

        return (int) round(abs($angle) / (2 * M_PI)) % 2 === 1 ? -sqrt($least) : sqrt($least);
    }

    private static function expected(Box|Path $shape, float $distance): float
    {
        $in = $shape->featherIn * self::HEIGHT;
        $out = $shape->featherOut * self::HEIGHT;
        if ($in + $out < 1) {
            [$in, $out] = [$in + (1 - $in - $out) / 2, $out + (1 - $in - $out) / 2];
        }
        $t = max(0.0, min(1.0, ($distance - $shape->grow * self::HEIGHT + $in) / ($in + $out)));

        return $shape->opacity * (1 - $t * $t * (3 - 2 * $t));
    }

    /** @param list<array{float, float}> $line */
    private static function worst(Box|Path $shape, array $line, Chance $random): float
    {
        $matte = ContourMatte::on($shape, Pose::still(), self::HEIGHT)->matte(Rect::of(0, 0, 160, self::HEIGHT));
        $worst = 0.0;
        for ($k = 0; $k < 30; ++$k) {
            $x = $random->whole(0, 159);
            $y = $random->whole(0, self::HEIGHT - 1);
            $worst = max($worst, abs(self::expected($shape, self::distance($line, $x + 0.5, $y + 0.5)) - $matte->at($x, $y)));
        }

        return $worst;
    }

    public function test_the_matte_agrees_with_a_brute_force_distance_on_random_concave_paths(): void
    {
        $random = Chance::seeded(5);
        $worst = 0.0;
        for ($try = 0; $try < 32; ++$try) {
            $points = [];
            for ($i = 0, $n = $random->whole(3, 8); $i < $n; ++$i) {
                // Now near the middle, now far from it: mostly concave, some crossing themselves by their handles.
                $angle = 2 * M_PI * ($i + $random->between(-0.3, 0.3)) / $n;
                $far = $random->between(0.12, 0.5);
                $reach = $try % 4 === 0 ? 0.0 : 0.15;
                $points[] = new PathPoint(0.9 + $far * cos($angle), 0.5 + $far * sin($angle), $random->between(-$reach, $reach), $random->between(-$reach, $reach), $random->between(-$reach, $reach), $random->between(-$reach, $reach));
            }
            $path = new Path('s', $points, $random->between(0, 0.2), $random->between(0, 0.2), $random->between(-0.02, 0.1), $random->between(0.3, 1));
            $worst = max($worst, self::worst($path, self::walked($points, 900), $random));
        }
        self::assertLessThan(1 / 255, $worst);
    }

    public function test_and_on_boxes_from_square_to_round(): void
    {
        $random = Chance::seeded(6);
        $worst = 0.0;
        for ($try = 0; $try < 24; ++$try) {
            $box = new Box('s', [$random->between(0.3, 1.4), $random->between(0.3, 0.7)], [$random->between(0.03, 0.5), $random->between(0.03, 0.5)], $random->between(-180, 180), [0.0, 1.0, $random->between(0, 1)][$try % 3], $random->between(0, 0.2), $random->between(0, 0.2), $random->between(-0.01, 0.1), $random->between(0.3, 1));
            $line = [];
            $corner = $box->round * min($box->radii);
            for ($k = 0; $k < 4000; ++$k) {
                // Round the box by the angle of its normal, the straight sides in the quarters' ends.
                $angle = 2 * M_PI * $k / 4000;
                $line[] = [($box->radii[0] - $corner) * (cos($angle) > 0 ? 1 : -1) + $corner * cos($angle), ($box->radii[1] - $corner) * (sin($angle) > 0 ? 1 : -1) + $corner * sin($angle)];
            }
            $dense = [];
            foreach ($line as $i => [$x, $y]) {
                [$u, $v] = $line[($i + 1) % count($line)];
                for ($s = 0, $n = max(1, (int) ceil(hypot($u - $x, $v - $y) / 0.0008)); $s < $n; ++$s) {
                    $p = [$x + ($u - $x) * $s / $n, $y + ($v - $y) * $s / $n];
                    $c = cos(deg2rad($box->turn));
                    $d = sin(deg2rad($box->turn));
                    $dense[] = [($box->centre[0] + $p[0] * $c - $p[1] * $d) * self::HEIGHT, ($box->centre[1] + $p[0] * $d + $p[1] * $c) * self::HEIGHT];
                }
            }
            $worst = max($worst, self::worst($box, $dense, $random));
        }
        self::assertLessThan(1 / 255, $worst);
    }

    public function test_a_round_box_with_equal_sides_is_a_circle(): void
    {
        $frame = Rect::of(0, 0, 320, 200);
        $box = ContourMatte::on(new Box('s', [0.8, 0.5], [0.3, 0.3], 20, 1, 0.05, 0.1), Pose::still(), 200)->matte($frame);
        $circle = EllipseMatte::on(new Ellipse('s', [0.8, 0.5], [0.3, 0.3], 0, 0.05, 0.1), Matrix::identity(), 200)->matte($frame);
        foreach ($circle->v as $i => $v) {
            self::assertEqualsWithDelta($v, $box->v[$i], 1 / 400);
        }
    }

    public function test_a_path_goes_with_a_perspective_motion_point_by_point(): void
    {
        $corners = [[0.4, 0.3], [1.1, 0.25], [1.2, 0.7], [0.5, 0.8]];
        $motion = Matrix::of([1.1, 0.1, -0.1, -0.05, 0.95, 0.05, 0.2, -0.1, 1]);
        $path = new Path('s', array_map(static fn(array $p): PathPoint => new PathPoint(...$p), $corners));
        $moved = new Path('s', array_map(static fn(array $p): PathPoint => new PathPoint(...$motion->apply(...$p)), $corners));
        $frame = Rect::of(0, 0, 320, 200);
        $a = ContourMatte::on($path, new Pose($motion), 200)->matte($frame);
        $b = ContourMatte::on($moved, Pose::still(), 200)->matte($frame);
        foreach ($b->v as $i => $v) {
            self::assertEqualsWithDelta($v, $a->v[$i], 1e-6);
        }
    }

    public function test_any_window_of_the_matte_is_the_same_as_that_part_of_the_whole(): void
    {
        $points = [new PathPoint(0.3, 0.2, 0, 0, 0.3, 0.1), new PathPoint(1.3, 0.3), new PathPoint(0.8, 0.45, 0.1, 0.1), new PathPoint(1.1, 0.9), new PathPoint(0.4, 0.8)];
        $placed = ContourMatte::on(new Path('s', $points, 0.03, 0.08), Pose::still(), self::HEIGHT);
        $whole = $placed->matte(Rect::of(0, 0, 160, self::HEIGHT));
        $rect = Rect::of(37, 21, 61, 43);
        self::assertSame($whole->window($rect)->v, $placed->matte($rect)->v);
    }

    public function test_a_path_without_area_and_one_outside_the_picture_give_an_empty_matte(): void
    {
        $frame = Rect::of(0, 0, 160, self::HEIGHT);
        $line = ContourMatte::on(new Path('s', [new PathPoint(0.2, 0.2), new PathPoint(0.8, 0.6)], 0.0, 0.0, -0.02), Pose::still(), self::HEIGHT);
        self::assertSame(0.0, max($line->matte($frame)->v));
        $away = ContourMatte::on(new Path('s', [new PathPoint(5, 5), new PathPoint(6, 5), new PathPoint(6, 6)], 0.1, 0.1), Pose::still(), self::HEIGHT);
        self::assertSame(0.0, max($away->matte($frame)->v));
    }
}
