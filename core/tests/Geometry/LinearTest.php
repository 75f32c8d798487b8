<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Geometry;

use Cossel\Core\Geometry\Linear;
use Cossel\Core\Tests\Chance;
use PHPUnit\Framework\TestCase;

final class LinearTest extends TestCase
{
    public function test_random_systems_are_solved(): void
    {
        $random = Chance::seeded(21);
        foreach ([1, 2, 3, 5, 8] as $n) {
            $wanted = $a = $b = [];
            for ($i = 0; $i < $n; ++$i) {
                $wanted[] = $random->between(-5, 5);
                $a[] = array_map(static fn(): float => $random->between(-2, 2), range(1, $n));
            }
            foreach ($a as $row) {
                $b[] = array_sum(array_map(static fn(float $p, float $q): float => $p * $q, $row, $wanted));
            }
            foreach (Linear::solve($a, $b) ?? [] as $i => $x) {
                self::assertEqualsWithDelta($wanted[$i], $x, 1e-8);
            }
        }
    }

    public function test_a_zero_on_the_diagonal_is_no_trouble_and_a_flat_system_has_no_answer(): void
    {
        self::assertEqualsWithDelta([3.0, 2.0], Linear::solve([[0.0, 1.0], [1.0, 0.0]], [2.0, 3.0]), 1e-12);
        self::assertNull(Linear::solve([[1.0, 2.0], [2.0, 4.0]], [1.0, 2.0]));
    }
}
