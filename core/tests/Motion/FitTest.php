<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Motion;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Motion\Fit;
use Cossel\Core\Recipe\Model;
use Cossel\Core\Tests\Chance;
use PHPUnit\Framework\TestCase;

final class FitTest extends TestCase
{
    public function test_an_exact_motion_is_found_exactly_even_with_a_third_of_the_pairs_wrong(): void
    {
        $random = Chance::seeded(1);
        $truth = Matrix::about(50, 40, 12, 1.2, 1.2, 8, -3);
        $from = $to = [];
        for ($i = 0; $i < 60; ++$i) {
            $from[] = $p = [$random->between(0, 100), $random->between(0, 80)];
            $to[] = $i % 3 === 0 ? [$random->between(0, 100), $random->between(0, 80)] : $truth->apply(...$p);
        }
        $found = Fit::robust(Model::Similarity, $from, $to, 1.0);
        self::assertNotNull($found);
        foreach ($truth->m as $i => $v) {
            self::assertEqualsWithDelta($v, $found[0]->m[$i], 1e-6);
        }
    }

    public function test_least_squares_is_no_worse_than_any_motion_beside_it(): void
    {
        $random = Chance::seeded(2);
        $from = $to = [];
        for ($i = 0; $i < 12; ++$i) {
            $from[] = [$random->between(0, 10), $random->between(0, 10)];
            $to[] = [$random->between(0, 10), $random->between(0, 10)];
        }
        $cost = static function (Matrix $m) use ($from, $to): float {
            $sum = 0.0;
            foreach ($from as $i => $p) {
                [$x, $y] = $m->apply(...$p);
                $sum += ($x - $to[$i][0]) ** 2 + ($y - $to[$i][1]) ** 2;
            }

            return $sum;
        };
        $best = Fit::least(Model::Similarity, $from, $to);
        self::assertNotNull($best);
        foreach ([[0.5, 1, 0, 0], [0, 1.02, 0, 0], [0, 1, 0.1, 0], [0, 1, 0, -0.1]] as [$turn, $scale, $dx, $dy]) {
            self::assertGreaterThan($cost($best), $cost($best->times(Matrix::about(5, 5, $turn, $scale, $scale, $dx, $dy))));
        }
    }

    public function test_position_alone_ignores_turns(): void
    {
        $m = Fit::least(Model::Position, [[0.0, 0.0], [1.0, 0.0]], [[5.0, 5.0], [5.0, 6.0]]);
        self::assertSame([1.0, 0.0, 4.5, 0.0, 1.0, 5.5, 0.0, 0.0, 1.0], $m?->m);
    }

    public function test_points_in_one_place_have_no_similarity(): void
    {
        self::assertNull(Fit::least(Model::Similarity, [[1.0, 1.0], [1.0, 1.0]], [[2.0, 2.0], [3.0, 3.0]]));
        self::assertNull(Fit::robust(Model::Similarity, [], [], 1.0));
    }

    public function test_affine_and_perspective_motions_are_found_exactly_and_without_being_pulled(): void
    {
        $random = Chance::seeded(8);
        $affine = Matrix::of([1.1, 0.15, 4, -0.08, 0.93, -7, 0, 0, 1]);
        $perspective = Matrix::of([1.05, 0.1, 3, -0.04, 0.97, -5, 0.0004, -0.0002, 1]);
        foreach ([[Model::Affine, $affine, 1e-6], [Model::Perspective, $perspective, 0.2]] as [$model, $truth, $tolerance]) {
            $from = $to = [];
            for ($i = 0; $i < 80; ++$i) {
                $from[] = $p = [$random->between(0, 200), $random->between(0, 200)];
                $to[] = $i % 9 === 0 ? [$random->between(0, 200), $random->between(0, 200)] : $truth->apply(...$p);
            }
            [$found, $weights] = Fit::robust($model, $from, $to, 14.0) ?? [Matrix::identity(), []];
            foreach ([[10.0, 10.0], [190.0, 20.0], [100.0, 180.0]] as [$x, $y]) {
                [$u, $v] = $truth->apply($x, $y);
                [$a, $b] = $found->apply($x, $y);
                self::assertLessThan(max(0.05, $tolerance), hypot($u - $a, $v - $b), $model->value);
            }
            self::assertSame(0.0, $weights[9]);
        }
    }

    public function test_points_on_a_line_do_not_settle_an_affine_motion(): void
    {
        self::assertNull(Fit::least(Model::Affine, [[0.0, 0.0], [1.0, 1.0], [2.0, 2.0]], [[0.0, 0.0], [1.0, 1.0], [2.0, 2.0]]));
    }

    public function test_what_agrees_less_counts_less(): void
    {
        $from = $to = [];
        for ($i = 0; $i < 20; ++$i) {
            $from[] = $p = [10.0 * ($i % 5), 12.0 * intdiv($i, 5)];
            $to[] = $p;
        }
        // Six that all went half a tolerance beyond it, the same way.
        for ($i = 0; $i < 6; ++$i) {
            $from[] = [5.0 + 7 * $i, 20.0];
            $to[] = [5.0 + 7 * $i + 2.4, 20.0];
        }
        $found = Fit::robust(Model::Position, $from, $to, 2.0);
        self::assertNotNull($found);
        // Their plain mean would be 6 / 26 of that.
        self::assertLessThan(0.2, abs($found[0]->m[2]));
    }

    public function test_perspective_does_not_tip_over_for_what_is_only_noise(): void
    {
        // Points in a strip say next to nothing of how the plane tips across it.
        $random = Chance::seeded(12);
        $tipped = [];
        for ($try = 0; $try < 30; ++$try) {
            $from = $to = [];
            for ($i = 0; $i < 14; ++$i) {
                $from[] = $p = [$random->between(0, 60), $random->between(0, 5)];
                $to[] = [$p[0] + $random->between(-0.6, 0.6), $p[1] + $random->between(-0.6, 0.6)];
            }
            $m = Fit::least(Model::Perspective, $from, $to)?->m ?? self::fail();
            $tipped[] = 17 * hypot($m[6], $m[7]);
        }
        sort($tipped);
        self::assertLessThan(0.05, $tipped[15]);
    }
}
