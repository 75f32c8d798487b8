<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Motion;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Motion\Similarity;
use Cossel\Core\Recipe\Model;
use Cossel\Core\Tests\Chance;
use PHPUnit\Framework\TestCase;

final class SimilarityTest extends TestCase
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
        $found = Similarity::robust($from, $to, 1.0, Model::Similarity);
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
        $best = Similarity::fit($from, $to);
        self::assertNotNull($best);
        foreach ([[0.5, 1, 0, 0], [0, 1.02, 0, 0], [0, 1, 0.1, 0], [0, 1, 0, -0.1]] as [$turn, $scale, $dx, $dy]) {
            self::assertGreaterThan($cost($best), $cost($best->times(Matrix::about(5, 5, $turn, $scale, $scale, $dx, $dy))));
        }
    }

    public function test_position_alone_ignores_turns(): void
    {
        $m = Similarity::fit([[0.0, 0.0], [1.0, 0.0]], [[5.0, 5.0], [5.0, 6.0]], null, Model::Position);
        self::assertSame([1.0, 0.0, 4.5, 0.0, 1.0, 5.5, 0.0, 0.0, 1.0], $m?->m);
    }

    public function test_points_in_one_place_have_no_similarity(): void
    {
        self::assertNull(Similarity::fit([[1.0, 1.0], [1.0, 1.0]], [[2.0, 2.0], [3.0, 3.0]]));
        self::assertNull(Similarity::robust([], [], 1.0, Model::Similarity));
    }
}
