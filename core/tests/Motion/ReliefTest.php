<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Motion;

use Cossel\Core\Geometry\Linear;
use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Geometry\Relief;
use Cossel\Core\Motion\DepthField;
use Cossel\Core\Motion\ReliefGauge;
use Cossel\Core\Motion\ReliefLearner;
use Cossel\Core\Motion\ReliefMotion;
use Cossel\Core\Motion\State;
use Cossel\Core\Motion\Step;
use Cossel\Core\Motion\Surface;
use Cossel\Core\Motion\SurfaceView;
use Cossel\Core\Motion\Track;
use Cossel\Core\Recipe\InvalidRecipe;
use Cossel\Core\Recipe\Model;
use Cossel\Core\Tests\Chance;
use PHPUnit\Framework\TestCase;

/** What is learnt of a surface from how its points move. */
final class ReliefTest extends TestCase
{
    /** Of a head 160 pixels wide. */
    private const EYES = [200.0, 150.0];
    private const MOUTH = [200.0, 240.0];
    private const APART = 110.0;

    private static function view(): SurfaceView
    {
        return SurfaceView::head(self::EYES, self::MOUTH, self::APART);
    }

    /** As a camera far off sees what is turned, by scaled rotation about the vertical and the level axis. */
    private static function camera(float $yaw, float $pitch = 0.0, float $scale = 1.0, float $x = 0.0, float $y = 0.0): ReliefMotion
    {
        [$c, $s, $cp, $sp] = [cos($yaw), sin($yaw), cos($pitch), sin($pitch)];
        $about = Matrix::move(200 + $x, 180 + $y)->times(Matrix::of([$scale * $c, 0, 0, $scale * $sp * $s, $scale * $cp, 0, 0, 0, 1]))->times(Matrix::move(-200, -180));

        return new ReliefMotion($about, [$scale * $s, -$scale * $sp * $c]);
    }

    /** Depths a person has: the surface with another nose and chin. */
    private static function face(float $x, float $y): float
    {
        return self::view()->depth($x, $y) + 9 * exp(-(($x - 205) ** 2 + ($y - 205) ** 2) / 400) - 7 * exp(-(($x - 160) ** 2 + ($y - 250) ** 2) / 2500);
    }

    /** @return list<array{float, float}> */
    private static function places(int $count = 70): array
    {
        $chance = Chance::seeded(5);
        $places = [];
        while (count($places) < $count) {
            [$x, $y] = [$chance->between(135, 265), $chance->between(90, 290)];
            if ((($x - 200) / 68) ** 2 + (($y - 190) / 105) ** 2 < 1) {
                $places[] = [$x, $y];
            }
        }

        return $places;
    }

    /**
     * @param callable(int): float $yaw
     *
     * @return array{list<array{float, float}>, array<int, array<int, array{float, float}>>, array<int, ReliefMotion>} points, where they were
     *                                                                                                        found, motions over the surface
     */
    private static function shot(callable $yaw, float $noise, int $sliding = 0): array
    {
        $chance = Chance::seeded(7);
        $from = self::places();
        $found = $motions = [];
        $z = array_map(static fn(array $p): float => self::view()->depth(...$p), $from);
        for ($frame = 1; $frame <= 30; ++$frame) {
            $camera = self::camera($yaw($frame), 0.06 * sin($frame / 4), 1 + 0.002 * $frame, 0.4 * $frame, sin($frame));
            foreach ($from as $i => [$x, $y]) {
                // Some stick to the light instead of the skin.
                $depth = $i < $sliding ? 0.0 : self::face($x, $y);
                [$u, $v] = $camera->apply($x, $y, $depth);
                $found[$frame][$i] = [$u + $chance->between(-$noise, $noise), $v + $chance->between(-$noise, $noise)];
            }
            $motions[$frame] = ReliefMotion::least($from, $z, $found[$frame]) ?? ReliefMotion::still();
        }

        return [$from, $found, $motions];
    }

    /**
     * Worst and usual distance, in pixels, of places of the face on all frames from where they truly are.
     *
     * @param array<int, ReliefMotion> $motions
     * @param callable(int): float     $yaw
     *
     * @return array{float, float}
     */
    private static function error(DepthField $field, array $motions, callable $yaw): array
    {
        $worst = $sum = 0.0;
        $n = 0;
        foreach ($motions as $frame => $motion) {
            $camera = self::camera($yaw($frame), 0.06 * sin($frame / 4), 1 + 0.002 * $frame, 0.4 * $frame, sin($frame));
            foreach ([[200, 205], [160, 150], [240, 150], [170, 240], [232, 238], [200, 105], [150, 195], [250, 200]] as [$x, $y]) {
                [$u, $v] = $camera->apply($x, $y, self::face($x, $y));
                [$p, $q] = $motion->apply($x, $y, $field->depth($x, $y));
                $worst = max($worst, hypot($u - $p, $v - $q));
                $sum += ($u - $p) ** 2 + ($v - $q) ** 2;
                ++$n;
            }
        }

        return [$worst, sqrt($sum / $n)];
    }

    public function test_a_motion_over_known_depths_is_found_whatever_some_points_say(): void
    {
        $from = self::places(40);
        $z = array_map(static fn(array $p): float => self::face(...$p), $from);
        $camera = self::camera(0.5, -0.2, 1.1, 14, -3);
        $to = array_map(static fn(array $p, float $d): array => $camera->apply($p[0], $p[1], $d), $from, $z);
        $least = ReliefMotion::least($from, $z, $to);
        self::assertNotNull($least);
        for ($i = 0; $i < 9; ++$i) {
            $to[4 * $i] = [$to[4 * $i][0] + 30, $to[4 * $i][1] - 40];
        }
        $robust = ReliefMotion::robust($from, $z, $to, 12.0);
        self::assertNotNull($robust);
        foreach ([$least, $robust[0]] as $motion) {
            self::assertEqualsWithDelta($camera->matrix->m, $motion->matrix->m, 0.05);
            self::assertEqualsWithDelta($camera->depth, $motion->depth, 0.005);
        }
        self::assertSame([0.0, 1], [$robust[1][0], (int) round($robust[1][1])]);
        self::assertNull(ReliefMotion::robust(array_slice($from, 0, 5), $z, $to, 12.0));
        // Depths that nothing tells of do not shift anything.
        self::assertEqualsWithDelta([0.0, 0.0], ReliefMotion::least($from, array_fill(0, 40, 3.0), $to)?->depth, 1e-9);
    }

    public function test_what_comes_after_a_motion_and_other_units_are_the_same_motion(): void
    {
        $motion = self::camera(0.4, 0.1, 1.1, 3, 4);
        $after = Matrix::about(100, 100, 12, 1.2, 1.2, 5, -6);
        [$x, $y] = $after->apply(...$motion->apply(170, 160, 20));
        self::assertEqualsWithDelta([$x, $y], $motion->then($after)->apply(170, 160, 20), 1e-9);
        self::assertEqualsWithDelta([$x / 50, $y / 50], $motion->then($after)->inPixels(1 / 50)->apply(170 / 50, 160 / 50, 20 / 50), 1e-9);
        // z = 2 + 0.5 x - 0.25 y + 3 z'.
        $over = $motion->over(3.0, 2.0, 0.5, -0.25);
        self::assertEqualsWithDelta($motion->apply(10, 20, 2 + 5 - 5 + 3 * 4), $over->apply(10, 20, 4), 1e-9);
        // As a surface that rises is turned: from a place to one near it.
        [$a, $b, $c, $d] = $motion->linear([0.3, -0.2]);
        [$u, $v] = $motion->apply(171, 162, 20 + 0.3 - 0.4);
        [$p, $q] = $motion->apply(170, 160, 20);
        self::assertEqualsWithDelta([$u - $p, $v - $q], [$a + 2 * $b, $c + 2 * $d], 1e-9);
    }

    /** Depths too small by half and tilted: the motions that explain them tell so. */
    public function test_turning_tells_scale_and_tilt(): void
    {
        $motions = [];
        for ($k = 1; $k < 20; ++$k) {
            $motions[] = self::camera(0.05 * $k - 0.3, 0.02 * $k, 1 + 0.01 * $k)->over(2.0, 0.0, 0.3, -0.2);
        }
        $a = array_fill(0, 4, array_fill(0, 4, 0.0));
        $b = array_fill(0, 4, 0.0);
        // z = 2 z' + tilt: the true one is z' again, so (z' - tilt q) / 2.
        ReliefGauge::of($motions)->holdTo([0.5, 0.0, -0.15, 0.1], 0, $a, $b);
        self::assertEqualsWithDelta([0.0, 0.0, 0.0, 0.0], $b, 1e-3 * $a[0][0]);
        $plane = [0.4, 0.0, -0.1, 0.0];
        for ($k = 0; $k < 6; ++$k) {
            $a = array_fill(0, 4, array_fill(0, 4, 0.0));
            $a[1][1] = 1.0;
            $b = array_fill(0, 4, 0.0);
            ReliefGauge::of($motions)->holdTo($plane, 0, $a, $b);
            $plane = array_map(static fn(float $v, float $step): float => $v + $step, $plane, Linear::solve($a, $b) ?? $b);
        }
        self::assertEqualsWithDelta([0.5, 0.0, -0.15, 0.1], $plane, 1e-3);
    }

    /** A box too wide for the head in it, with hardly a depth known: what is so wide for its height is no head, but may be something else. */
    public function test_a_head_is_about_as_high_for_its_width_as_heads_are(): void
    {
        $wide = [];
        foreach ([Surface::head(), Surface::dome()] as $surface) {
            // Between the eyes and the mouth of a head of unit 12 are 81.6 pixels, between the corners of its eyes 108.
            $box = SurfaceView::in($surface, 100, 100, 1.3 * 108 / 0.68, 81.6 / 0.47);
            $depths = array_map(static fn(array $p): array => [$p[0], $p[1], $box->depth(...$p), 1e6], self::places(20));
            [$view] = $box->fitted($box, $depths, [1.0, 0.0, 0.0, 0.0], ReliefGauge::of([]), [200.0, 180.0]);
            $wide[] = $view->unit() / $box->unit();
        }
        self::assertEqualsWithDelta(0.87, $wide[0], 0.02);
        self::assertEqualsWithDelta(1.0, $wide[1], 0.03);
    }

    public function test_a_turned_surface_is_seen_turned(): void
    {
        $head = self::view();
        // The nose stands out, the temples lie back, left and right alike.
        self::assertGreaterThan($head->depth(...self::EYES), $head->depth(200, 205));
        self::assertEqualsWithDelta($head->depth(140, 190), $head->depth(260, 190), 1e-6);
        self::assertEqualsWithDelta(self::APART / 9, $head->unit(), 1e-9);
        self::assertGreaterThan(3.5, ($head->depth(200, 205) - $head->depth(145, 150)) / $head->unit());
        $dome = SurfaceView::in(Surface::dome(), 100, 100, 200, 300);
        self::assertGreaterThan($dome->depth(105, 250), $dome->depth(200, 250));
        // Depths of a head that looks aside, known but for scale and a plane: the view turns as far.
        $turned = 0.35;
        $depths = [];
        foreach (self::places() as [$x, $y]) {
            // Meet the turned surface by the line of sight.
            $q = $x;
            for ($k = 0; $k < 40; ++$k) {
                $q = 200 + (($x - 200) - sin($turned) * $head->depth($q, $y)) / cos($turned);
            }
            $depths[] = [$x, $y, 0.8 * (cos($turned) * $head->depth($q, $y) - sin($turned) * ($q - 200)) + 11, 4.0];
        }
        [$view, $plane] = $head->fitted($head, $depths, [1.0, 0.0, 0.0, 0.0], ReliefGauge::of([]), [200, 180]);
        $error = 0.0;
        foreach ($depths as [$x, $y, $z]) {
            $error = max($error, abs($plane[0] * $view->depth($x, $y) + $plane[1] + $plane[2] * ($x - 200) + $plane[3] * ($y - 180) - $z));
        }
        self::assertLessThan(5.0, $error);
        self::assertGreaterThan($view->depth(205, 205), $view->depth(218, 205), 'the nose is where the head looks');
    }

    public function test_the_depths_of_a_face_are_learnt_from_its_turning(): void
    {
        $yaw = static fn(int $f): float => 0.6 * sin($f / 30 * 2 * M_PI);
        [$from, $found, $motions] = self::shot($yaw, 0.4);
        [$worstBefore, $before] = self::error(DepthField::of(self::view()), $motions, $yaw);
        [$field, $motions] = ReliefLearner::learn(self::view(), $from, $found, $motions, [200, 180], 12.0);
        [$worst, $after] = self::error($field, $motions, $yaw);
        self::assertLessThan(0.62 * $before, $after);
        self::assertLessThan(0.8 * $worstBefore, $worst);
        self::assertLessThan(1.3, $after);
    }

    /** Half of the points slide with the light: their ways fit no depth. */
    public function test_points_that_slide_do_not_bend_the_face(): void
    {
        $yaw = static fn(int $f): float => 0.6 * sin($f / 30 * 2 * M_PI);
        [$from, $found, $motions] = self::shot($yaw, 1.0);
        foreach ($found as $frame => $places) {
            for ($i = 0; $i < 36; ++$i) {
                $found[$frame][$i] = [$places[$i][0] + 5 * sin($frame / 4 + $i), $places[$i][1] + 4 * cos($frame / 5 + 2 * $i)];
            }
        }
        [$field, $motions] = ReliefLearner::learn(self::view(), $from, $found, $motions, [200, 180], 12.0);
        self::assertLessThan(1.28, self::error($field, $motions, $yaw)[1]);
    }

    /** Where nothing turns there is nothing to learn, and no harm. */
    public function test_what_does_not_turn_stays_flat(): void
    {
        [$from, $found, $motions] = self::shot(static fn(): float => 0.0, 0.5);
        [$field, $motions] = ReliefLearner::learn(self::view(), $from, $found, $motions, [200, 180], 12.0);
        self::assertLessThan(0.8, self::error($field, $motions, static fn(): float => 0.0)[1]);
        foreach (self::places(12) as [$x, $y]) {
            self::assertLessThan(0.6 * self::view()->unit(), abs($field->depth($x, $y) - self::view()->depth($x, $y) - ($field->depth(200, 190) - self::view()->depth(200, 190))));
        }
    }

    private static function track(int $start = 3): Track
    {
        $relief = Relief::over(0.25, 0.15, 0.3, 0.45, static fn(float $x, float $y): float => 0.1 - ($x - 0.4) ** 2 - 0.5 * ($y - 0.37) ** 2);
        $steps = [];
        for ($f = 0; $f < 7; ++$f) {
            $camera = self::camera(0.1 * ($f - $start))->inPixels(1 / 500);
            $steps[$f] = new Step($camera->matrix, State::Followed, 0.9, depth: $camera->depth);
        }

        return Track::of($start, Model::Relief, $steps, $relief);
    }

    public function test_a_track_carries_its_relief_and_is_read_back(): void
    {
        $track = self::track();
        $read = Track::read(json_decode($track->json(), true));
        self::assertTrue($track->json() === $read->json());
        [$x, $y] = $track->pose(6)->apply(0.4, 0.37);
        $z = 0.1;
        [$u, $v] = self::camera(0.3)->inPixels(1 / 500)->apply(0.4, 0.37, $z);
        self::assertEqualsWithDelta([$u, $v], [$x, $y], 1e-3);
        self::assertEqualsWithDelta([$x, $y], $read->pose(6)->apply(0.4, 0.37), 1e-5);
        $broken = $track->document();
        $broken['relief']['depths'] = [1, 2, 3];
        $this->expectException(InvalidRecipe::class);
        $this->expectExceptionMessageMatches('/relief/');
        Track::read($broken);
    }

    /** Followed again from another frame over a part of the span: what is kept goes on being where it was. */
    public function test_frames_that_are_kept_stay_where_they_were_over_another_relief(): void
    {
        $old = self::track();
        $where = $old->pose(5)->apply(0.4, 0.37);
        $on5 = $old->relief?->carried($old->pose(5)->motion, [$old->pose(5)->parallax->x, $old->pose(5)->parallax->y]);
        $new = $old->with(5, Model::Relief, [6 => new Step(Matrix::move(0.02, 0), State::Followed, 1.0)], $on5);
        self::assertSame([0, 6], [$new->first(), $new->last()]);
        foreach ([0, 2, 4] as $frame) {
            self::assertEqualsWithDelta($old->pose($frame)->apply(0.4, 0.37), $new->pose($frame)->apply(...$where), 2e-3, (string) $frame);
            self::assertEqualsWithDelta($old->pose($frame)->apply(0.36, 0.3), $new->pose($frame)->apply(...$old->pose(5)->apply(0.36, 0.3)), 2e-3);
        }
        self::assertEqualsWithDelta([$where[0] + 0.02, $where[1]], $new->pose(6)->apply(...$where), 1e-9);
        // A flat model takes over the nearest flat motions.
        $flat = $old->with(5, Model::Similarity, [6 => new Step(Matrix::identity(), State::Followed, 1.0)]);
        self::assertNull($flat->relief);
        self::assertEqualsWithDelta($old->pose(4)->apply(0.4, 0.37), $flat->pose(4)->apply(...$where), 0.02);
    }
}
