<?php

declare(strict_types=1);

namespace Cossel\Measuring;

/** Rank correlation. */
final class Ranks
{
    /**
     * Spearman's: the correlation of the ranks; equal values share the mean of theirs.
     *
     * @param list<float> $a
     * @param list<float> $b
     */
    public static function correlation(array $a, array $b): float
    {
        $x = self::ranks($a);
        $y = self::ranks($b);
        $n = count($x);
        $mean = ($n - 1) / 2;
        $xy = $xx = $yy = 0.0;
        foreach ($x as $i => $v) {
            $xy += ($v - $mean) * ($y[$i] - $mean);
            $xx += ($v - $mean) ** 2;
            $yy += ($y[$i] - $mean) ** 2;
        }

        return $xx > 0 && $yy > 0 ? $xy / sqrt($xx * $yy) : 0.0;
    }

    /**
     * @param list<float> $values
     *
     * @return list<float>
     */
    private static function ranks(array $values): array
    {
        asort($values);
        $order = array_keys($values);
        $sorted = array_values($values);
        $ranks = [];
        for ($i = 0, $n = count($sorted); $i < $n; $i = $j) {
            for ($j = $i; $j < $n && $sorted[$j] === $sorted[$i]; ++$j);
            for ($k = $i; $k < $j; ++$k) {
                $ranks[$order[$k]] = ($i + $j - 1) / 2;
            }
        }
        ksort($ranks);

        return array_values($ranks);
    }
}
