<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Motion;

use Cossel\Core\Motion\EdgeProfile;
use Cossel\Core\Motion\EdgeSamples;
use Cossel\Core\Outline\Contour;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\PathPoint;
use PHPUnit\Framework\TestCase;

/** Samples on a path's edge and the profiles across it, against what can be worked out by hand. */
final class EdgesTest extends TestCase
{
    /** @return list<PathPoint> a circle by four Bézier pieces */
    private static function circle(float $x, float $y, float $radius): array
    {
        $k = 0.5522847 * $radius;

        return [
            new PathPoint($x + $radius, $y, 0, -$k, 0, $k),
            new PathPoint($x, $y + $radius, $k, 0, -$k, 0),
            new PathPoint($x - $radius, $y, 0, $k, 0, -$k),
            new PathPoint($x, $y - $radius, -$k, 0, $k, 0),
        ];
    }

    public function test_samples_lie_on_the_path_and_their_normals_point_outwards_whichever_way_it_goes_round(): void
    {
        $circle = self::circle(50, 40, 20);
        $mirrored = array_map(static fn(PathPoint $p): PathPoint => new PathPoint($p->x, $p->y, $p->outX, $p->outY, $p->inX, $p->inY), array_reverse($circle));
        foreach ([$circle, $mirrored] as $points) {
            [$xs, $ys] = EdgeSamples::samples($points);
            self::assertCount(20, $xs);
            [$nx, $ny] = EdgeSamples::normals($xs, $ys);
            foreach ($xs as $k => $x) {
                self::assertEqualsWithDelta(20, hypot($x - 50, $ys[$k] - 40), 0.01);
                self::assertEqualsWithDelta(($x - 50) / 20, $nx[$k], 0.02);
                self::assertEqualsWithDelta(($ys[$k] - 40) / 20, $ny[$k], 0.02);
            }
        }
    }

    public function test_a_path_through_its_own_samples_is_itself(): void
    {
        $points = self::circle(50, 40, 20);
        foreach (EdgeSamples::path($points, ...EdgeSamples::samples($points)) as $i => $p) {
            foreach (['x', 'y', 'inX', 'inY', 'outX', 'outY'] as $of) {
                self::assertEqualsWithDelta($points[$i]->{$of}, $p->{$of}, 1e-9, "{$i} {$of}");
            }
        }
    }

    public function test_a_path_through_moved_samples_goes_through_them(): void
    {
        $points = self::circle(50, 40, 20);
        [$xs, $ys] = EdgeSamples::samples($points);
        // An ellipse turned into the place of the circle: pieces can follow it exactly.
        foreach ($xs as $k => $x) {
            $xs[$k] = 53 + 1.3 * ($x - 50);
            $ys[$k] = 38 + 0.8 * ($ys[$k] - 40);
        }
        $moved = EdgeSamples::path($points, $xs, $ys);
        [$us, $vs] = EdgeSamples::samples($moved);
        foreach ($us as $k => $u) {
            self::assertEqualsWithDelta($xs[$k], $u, 1e-9);
            self::assertEqualsWithDelta($ys[$k], $vs[$k], 1e-9);
        }
    }

    public function test_straight_pieces_stay_straight(): void
    {
        $square = array_map(static fn(array $p): PathPoint => new PathPoint($p[0], $p[1], 0.0, 0.0, 0.0, 0.0), [[10.0, 10.0], [40.0, 10.0], [40.0, 40.0], [10.0, 40.0]]);
        [$xs, $ys] = EdgeSamples::samples($square);
        foreach ($xs as $k => $x) {
            $xs[$k] = $x + 2 * sin($k);
        }
        foreach (EdgeSamples::path($square, $xs, $ys) as $p) {
            self::assertSame([0.0, 0.0, 0.0, 0.0], [$p->inX, $p->inY, $p->outX, $p->outY]);
        }
    }

    /** Against the same normal equations solved densely by Gaussian elimination. */
    public function test_shifts_held_to_their_neighbours_solve_the_normal_equations(): void
    {
        mt_srand(4);
        $n = 12;
        [$shift, $weight, $nx, $ny] = [[], [], [], []];
        for ($k = 0; $k < $n; ++$k) {
            $angle = 2 * M_PI * $k / $n;
            [$nx[], $ny[]] = [cos($angle), sin($angle)];
            $shift[] = 4 * (mt_rand() / mt_getrandmax()) - 1;
            $weight[] = 0.2 + mt_rand() / mt_getrandmax();
        }
        foreach ([0.4, 3.0] as $stiffness) {
            $a = array_fill(0, 2 * $n, array_fill(0, 2 * $n + 1, 0.0));
            for ($k = 0; $k < $n; ++$k) {
                $normal = [$nx[$k], $ny[$k]];
                foreach ([0, 1] as $i) {
                    foreach ([0, 1] as $j) {
                        $a[2 * $k + $i][2 * $k + $j] += $weight[$k] * $normal[$i] * $normal[$j];
                    }
                    $a[2 * $k + $i][2 * $n] += $weight[$k] * $normal[$i] * $shift[$k];
                    $a[2 * $k + $i][2 * $k + $i] += 2 * $stiffness;
                    $a[2 * $k + $i][2 * (($k + 1) % $n) + $i] -= $stiffness;
                    $a[2 * $k + $i][2 * (($k + $n - 1) % $n) + $i] -= $stiffness;
                }
            }
            $exact = self::eliminated($a);
            [$mx, $my] = EdgeSamples::held($shift, $weight, $nx, $ny, $stiffness);
            for ($k = 0; $k < $n; ++$k) {
                self::assertEqualsWithDelta($exact[2 * $k], $mx[$k], 0.02, "{$stiffness} x {$k}");
                self::assertEqualsWithDelta($exact[2 * $k + 1], $my[$k], 0.02, "{$stiffness} y {$k}");
            }
        }
    }

    public function test_the_stiffer_the_more_neighbours_agree(): void
    {
        $n = 24;
        $nx = $ny = $shift = [];
        for ($k = 0; $k < $n; ++$k) {
            [$nx[], $ny[], $shift[]] = [cos(2 * M_PI * $k / $n), sin(2 * M_PI * $k / $n), $k === 6 ? 5.0 : 0.0];
        }
        $pulled = static fn(float $stiffness): float => EdgeSamples::held($shift, array_fill(0, $n, 1.0), $nx, $ny, $stiffness)[1][6];
        self::assertGreaterThan(2 * $pulled(8.0), $pulled(0.5));
        self::assertGreaterThan(2.5, $pulled(0.1));
    }

    public function test_a_profile_runs_from_inside_to_outside_its_mean_taken_off(): void
    {
        $rect = Rect::of(100, 50, 60, 60);
        $v = [];
        for ($y = 50; $y < 110; ++$y) {
            for ($x = 100; $x < 160; ++$x) {
                $v[] = 0.01 * ($x + 0.5) + 0.002 * ($y + 0.5);
            }
        }
        $plane = new Grey($rect, $v);
        $n = 2 * EdgeProfile::ACROSS + 1;
        $profile = EdgeProfile::of($plane, 130.3, 80.7, 0.6, 0.8);
        self::assertCount($n, $profile);
        self::assertEqualsWithDelta(0.0, array_sum($profile), 1e-12);
        foreach ($profile as $k => $value) {
            self::assertEqualsWithDelta(($k - EdgeProfile::ACROSS) * (0.6 * 0.01 + 0.8 * 0.002), $value, 1e-12);
        }
        // At the border of what is there, the last value goes on.
        self::assertNotContains(NAN, EdgeProfile::of($plane, 101, 51, -0.6, -0.8));
        self::assertCount($n + 8, EdgeProfile::line($plane, 130, 80, 1, 0, EdgeProfile::ACROSS + 4));
    }

    public function test_profiles_miss_each_other_by_their_mean_squared_difference(): void
    {
        $n = 2 * EdgeProfile::ACROSS + 1;
        $zero = array_fill(0, $n, 0.0);
        self::assertEqualsWithDelta(0.09, EdgeProfile::miss($zero, array_fill(0, $n, 0.3)), 1e-12);
        self::assertSame(0.0, EdgeProfile::miss($zero, $zero));
    }

    public function test_a_plain_step_is_as_high_as_the_clearer_profiles_and_higher_inside(): void
    {
        $step = static fn(float $height): array => [...array_fill(0, EdgeProfile::ACROSS, $height / 2), 0.0, ...array_fill(0, EdgeProfile::ACROSS, -$height / 2)];
        $stepped = EdgeProfile::stepped([...array_fill(0, 7, $step(0.02)), ...array_fill(0, 3, $step(0.3))]);
        self::assertEqualsWithDelta(0.15, $stepped[0], 1e-12);
        self::assertEqualsWithDelta(-0.15, $stepped[2 * EdgeProfile::ACROSS], 1e-12);
        self::assertSame(0.0, $stepped[EdgeProfile::ACROSS]);
    }

    public function test_samples_agree_with_the_contour(): void
    {
        $points = self::circle(30, 30, 12);
        [$xs, $ys] = EdgeSamples::samples($points);
        self::assertSame(Contour::on($points[1], $points[2], 0.4), [$xs[7], $ys[7]]);
    }

    /**
     * @param array<int, array<int, float>> $a with the right side as its last column
     *
     * @return list<float>
     */
    private static function eliminated(array $a): array
    {
        $n = count($a);
        for ($c = 0; $c < $n; ++$c) {
            $best = $c;
            for ($r = $c; $r < $n; ++$r) {
                if (abs($a[$r][$c]) > abs($a[$best][$c])) {
                    $best = $r;
                }
            }
            [$a[$c], $a[$best]] = [$a[$best], $a[$c]];
            for ($r = 0; $r < $n; ++$r) {
                $by = $r === $c ? 0.0 : $a[$r][$c] / $a[$c][$c];
                for ($k = $c; $by !== 0.0 && $k <= $n; ++$k) {
                    $a[$r][$k] -= $by * $a[$c][$k];
                }
            }
        }

        return array_map(static fn(int $c): float => $a[$c][$n] / $a[$c][$c], range(0, $n - 1));
    }

    /** A mouth opens and smiles; but a corner that has slid along the jaw is put back between its neighbours. */
    public function test_points_that_run_off_alone_are_put_between_their_neighbours(): void
    {
        $home = array_map(static fn(int $k): PathPoint => new PathPoint(100 + 40 * cos($k * M_PI / 5), 80 + 15 * sin($k * M_PI / 5)), range(0, 9));
        // Opened by half its width, smoothly.
        $open = array_map(static fn(PathPoint $p): PathPoint => $p->by(0, $p->y > 80 ? 2.4 * ($p->y - 80) : 0), $home);
        self::assertEquals($open, EdgeSamples::limber($open, $home));
        $run = $open;
        $run[0] = $run[0]->by(90, -4);
        $back = EdgeSamples::limber($run, $home);
        self::assertLessThan(12, hypot($back[0]->x - $open[0]->x, $back[0]->y - $open[0]->y));
        self::assertEqualsWithDelta($open[4], $back[4], 1e-9);
    }

    /** A mouth that has moved and opened stays so; a tooth of its edge that goes up and down from point to point is smoothed away. */
    public function test_a_path_beside_another_is_as_smooth_as_that(): void
    {
        $home = array_map(static fn(int $k): PathPoint => new PathPoint(100 + 40 * cos($k * M_PI / 6), 80 + 15 * sin($k * M_PI / 6), -5, 1, 5, -1), range(0, 11));
        $far = array_map(static fn(PathPoint $p): PathPoint => new PathPoint($p->x + 6, $p->y - 4, 9, 9, -9, 9), $home);
        foreach (EdgeSamples::smooth($far, $home) as $k => $p) {
            self::assertEqualsWithDelta([$home[$k]->x + 6, $home[$k]->y - 4, -5, 5], [$p->x, $p->y, $p->inX, $p->outX], 1e-9);
        }
        $open = array_map(static fn(PathPoint $p, int $k): PathPoint => $p->by(0, 6 * sin($k * M_PI / 6)), $home, range(0, 11));
        $torn = array_map(static fn(PathPoint $p, int $k): PathPoint => $p->by(0, $k % 2 === 0 ? 3 : -3), $open, range(0, 11));
        foreach (EdgeSamples::smooth($torn, $home) as $k => $p) {
            self::assertEqualsWithDelta($open[$k]->y, $p->y, 1.6, "point {$k}");
        }
    }
}
