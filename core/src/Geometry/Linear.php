<?php

declare(strict_types=1);

namespace Cossel\Core\Geometry;

/** Small systems of linear equations. */
final class Linear
{
    /**
     * Gaussian elimination with partial pivoting.
     *
     * @param list<list<float>> $a square, row by row
     * @param list<float>       $b
     *
     * @return list<float>|null null where the system has no single answer
     */
    public static function solve(array $a, array $b): ?array
    {
        $n = count($b);
        for ($c = 0; $c < $n; ++$c) {
            $best = $c;
            for ($r = $c + 1; $r < $n; ++$r) {
                if (abs($a[$r][$c]) > abs($a[$best][$c])) {
                    $best = $r;
                }
            }
            if (abs($a[$best][$c]) < 1e-12) {
                return null;
            }
            [$a[$c], $a[$best], $b[$c], $b[$best]] = [$a[$best], $a[$c], $b[$best], $b[$c]];
            for ($r = $c + 1; $r < $n; ++$r) {
                $k = $a[$r][$c] / $a[$c][$c];
                if ($k !== 0.0) {
                    for ($j = $c; $j < $n; ++$j) {
                        $a[$r][$j] -= $k * $a[$c][$j];
                    }
                    $b[$r] -= $k * $b[$c];
                }
            }
        }
        $x = array_fill(0, $n, 0.0);
        for ($r = $n - 1; $r >= 0; --$r) {
            $sum = $b[$r];
            for ($j = $r + 1; $j < $n; ++$j) {
                $sum -= $a[$r][$j] * $x[$j];
            }
            $x[$r] = $sum / $a[$r][$r];
        }

        return $x;
    }
}
