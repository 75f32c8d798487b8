<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Colour;

use Cossel\Core\Colour\Oklab;
use PHPUnit\Framework\TestCase;

final class OklabTest extends TestCase
{
    public function test_published_values(): void
    {
        // B. Ottosson's reference, also in CSS Color 4: white, red, green and blue of sRGB.
        $known = [
            [[1, 1, 1], [1.0, 0.0, 0.0]],
            [[1, 0, 0], [0.62796, 0.22486, 0.12585]],
            [[0, 1, 0], [0.86644, -0.23389, 0.17950]],
            [[0, 0, 1], [0.45201, -0.03246, -0.31153]],
        ];
        foreach ($known as [$rgb, $lab]) {
            foreach (Oklab::fromLinear(...$rgb) as $i => $value) {
                self::assertEqualsWithDelta($lab[$i], $value, 2e-4);
            }
        }
    }

    public function test_both_ways_lead_back(): void
    {
        foreach ([[0.2, 0.5, 0.9], [-0.05, 0.4, 1.3], [0.0, 0.0, 0.0]] as $rgb) {
            foreach (Oklab::toLinear(...Oklab::fromLinear(...$rgb)) as $i => $value) {
                self::assertEqualsWithDelta($rgb[$i], $value, 1e-6);
            }
        }
    }

    public function test_it_is_odd(): void
    {
        foreach ([[0.2, 0.1, 0.4], [0.9, 0.02, 0.3]] as $rgb) {
            $minus = Oklab::fromLinear(...array_map(static fn(float $v): float => -$v, $rgb));
            self::assertEqualsWithDelta(array_map(static fn(float $v): float => -$v, Oklab::fromLinear(...$rgb)), $minus, 1e-12);
        }
    }
}
