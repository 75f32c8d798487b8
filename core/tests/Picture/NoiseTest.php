<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Picture;

use Cossel\Core\Picture\Noise;
use Cossel\Core\Tests\Chance;
use PHPUnit\Framework\TestCase;

final class NoiseTest extends TestCase
{
    public function test_grain_is_told_from_light_and_edges(): void
    {
        $random = Chance::seeded(3);
        // The sum of six of spread 1 / sqrt(3) a side each.
        $grain = static fn(float $spread): float => $spread / sqrt(2) * array_sum(array_map(static fn(): float => $random->between(-1, 1), range(1, 6)));
        foreach ([0.0, 0.01, 0.04] as $spread) {
            $v = $where = [];
            for ($i = 0; $i < 200 * 150; ++$i) {
                [$x, $y] = [$i % 200, intdiv($i, 200)];
                $v[] = 0.2 + 0.002 * $x + 0.1 * sin($y / 20) + ($x > 90 && $x < 130 ? 0.3 : 0.0) + $grain($spread) + ($y > 100 ? $grain(0.2) : 0.0);
                $where[] = $y > 100 ? 0.0 : 1.0;
            }
            self::assertEqualsWithDelta($spread, Noise::of($v, $where), 0.1 * $spread + 1e-4);
        }
        self::assertSame(0.0, Noise::of([0.5, 0.5]));
    }
}
