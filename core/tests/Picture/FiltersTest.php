<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Picture;

use Cossel\Core\Picture\Gaussian;
use Cossel\Core\Picture\Normalised;
use Cossel\Core\Picture\Robust;
use Cossel\Core\Tests\Chance;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Blurs against the plain double sum, robust statistics against spoilt samples. */
final class FiltersTest extends TestCase
{
    private const W = 41;
    private const H = 33;

    /** @return list<float> */
    private static function noise(int $seed): array
    {
        $random = Chance::seeded($seed);
        $v = [];
        for ($i = 0; $i < self::W * self::H; ++$i) {
            $v[] = $random->between(0, 1);
        }

        return $v;
    }

    /**
     * @param list<float> $v
     * @param list<float> $w
     */
    private static function naive(array $v, array $w, int $x, int $y, float $sigma, bool $edges): float
    {
        $sum = $of = 0.0;
        $n = (int) ceil(5 * $sigma);
        for ($dy = -$n; $dy <= $n; ++$dy) {
            for ($dx = -$n; $dx <= $n; ++$dx) {
                $inside = $x + $dx >= 0 && $x + $dx < self::W && $y + $dy >= 0 && $y + $dy < self::H;
                if (!$inside && !$edges) {
                    continue;
                }
                $i = max(0, min(self::H - 1, $y + $dy)) * self::W + max(0, min(self::W - 1, $x + $dx));
                $k = exp(-($dx * $dx + $dy * $dy) / (2 * $sigma * $sigma));
                $sum += $k * $w[$i] * $v[$i];
                $of += $k * $w[$i];
            }
        }

        return $sum / $of;
    }

    /** @return iterable<string, array{float, float}> sigma, tolerance */
    public static function sigmas(): iterable
    {
        yield 'half a pixel' => [0.5, 2e-3];
        yield 'a pixel and a half' => [1.5, 2e-3];
        yield 'three pixels, by boxes' => [3.0, 0.02];
        yield 'six pixels, by boxes' => [6.0, 0.02];
    }

    #[DataProvider('sigmas')]
    public function test_a_gaussian_is_the_double_sum(float $sigma, float $tolerance): void
    {
        $v = self::noise(3);
        $even = array_fill(0, count($v), 1.0);
        $blurred = Gaussian::values($v, self::W, self::H, $sigma);
        foreach ([[20, 16], [24, 15], [0, 0], [40, 5], [7, 32], [13, 2]] as [$x, $y]) {
            // At an edge each box goes on from what the one before left.
            $edge = min($x, $y, self::W - 1 - $x, self::H - 1 - $y) < 3 * $sigma - 4 ? 2.5 : 1.0;
            self::assertEqualsWithDelta(self::naive($v, $even, $x, $y, $sigma, true), $blurred[$y * self::W + $x], $edge * $tolerance);
        }
        self::assertSame($v, Gaussian::values($v, self::W, self::H, 0.0));
    }

    #[DataProvider('sigmas')]
    public function test_it_looks_no_further_than_it_says(float $sigma): void
    {
        $v = array_fill(0, self::W * self::H, 0.0);
        $v[16 * self::W + 20] = 1.0;
        $blurred = Gaussian::values($v, self::W, self::H, $sigma);
        $reach = Gaussian::reach($sigma);
        foreach ($blurred as $i => $x) {
            if (max(abs($i % self::W - 20), abs(intdiv($i, self::W) - 16)) > $reach) {
                self::assertEqualsWithDelta(0.0, $x, 1e-15);
            }
        }
        $variance = 0.0;
        foreach ($blurred as $i => $x) {
            $variance += $x * ($i % self::W - 20) ** 2;
        }
        if ($reach <= 16) {
            self::assertEqualsWithDelta(1.0, array_sum($blurred), 1e-9);
            self::assertEqualsWithDelta($sigma, sqrt($variance), $sigma < 1 ? 0.04 : 0.01);
        }
    }

    public function test_what_counts_for_nothing_does_not_bleed_in(): void
    {
        $v = self::noise(5);
        $w = [];
        foreach ($v as $i => $x) {
            $w[] = $i % self::W < 20 ? 1.0 : 0.0;
            $v[$i] = $i % self::W < 20 ? $x : 1000.0;
        }
        foreach ([1.0, 4.0, 9.0] as $sigma) {
            $blurred = Normalised::over($w, self::W, self::H, $sigma)->blur($v);
            for ($y = 2; $y < self::H - 2; ++$y) {
                self::assertLessThan(1.0, $blurred[$y * self::W + 19]);
            }
        }
    }

    public function test_normalised_convolution_is_the_weighted_double_sum(): void
    {
        // Smooth pictures, as the block means are meant for.
        $v = $w = [];
        for ($i = 0; $i < self::W * self::H; ++$i) {
            $v[] = 0.5 + 0.4 * sin(($i % self::W) / 5) * cos(intdiv($i, self::W) / 4);
            $w[] = 0.5 + 0.5 * cos(($i % self::W) / 7 + intdiv($i, self::W) / 6);
        }
        foreach ([1.2, 3.5, 7.0] as $sigma) {
            $blurred = Normalised::over($w, self::W, self::H, $sigma)->blur($v);
            foreach ([[20, 16], [12, 20], [28, 12]] as [$x, $y]) {
                self::assertEqualsWithDelta(self::naive($v, $w, $x, $y, $sigma, true), $blurred[$y * self::W + $x], 0.02, "sigma {$sigma}");
            }
        }
    }

    public function test_a_few_strays_do_not_move_the_centre(): void
    {
        $random = Chance::seeded(8);
        $v = $w = [];
        for ($i = 0; $i < 3000; ++$i) {
            $sum = 0.0;
            for ($k = 0; $k < 12; ++$k) {
                $sum += $random->between(0, 1);
            }
            $v[] = $i % 10 === 0 ? 9.0 : 0.4 + 0.05 * ($sum - 6);
            $w[] = 1.0;
        }
        [$centre, $spread] = Robust::of($v, $w);
        self::assertEqualsWithDelta(0.4, $centre, 0.004);
        self::assertEqualsWithDelta(0.05, $spread, 0.012);
        self::assertSame([0.0, 0.0], Robust::of($v, array_fill(0, 3000, 0.0)));
        self::assertEqualsWithDelta(0.4, Robust::quantile($v, $w, 0.45), 0.01);
    }

    public function test_medians_and_quantiles_are_those_of_the_sorted_values(): void
    {
        $random = Chance::seeded(9);
        foreach (range(1, 60) as $n) {
            // Few values, so that many are alike.
            $v = array_map(static fn(): float => floor($random->between(0, 1 + $n % 9)) / 7, range(1, $n));
            $sorted = $v;
            sort($sorted);
            self::assertSame(($sorted[$n >> 1] + $sorted[($n - 1) >> 1]) / 2, Robust::median($v));
            self::assertSame($sorted[(int) round(0.3 * ($n - 1))], Robust::quantile($v, array_fill(0, $n, 1.0), 0.3));
        }
    }
}
