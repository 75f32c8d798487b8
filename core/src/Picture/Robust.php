<?php

declare(strict_types=1);

namespace Cossel\Core\Picture;

/**
 * Centre and spread of values that a few strays do not move: the median and 1.4826 times the median absolute deviation
 * of a sample give a start, from which two steps of Tukey's biweight (c = 4.685; P. Huber, "Robust Statistics", 1981)
 * lead to the centre.
 */
final class Robust
{
    private const SAMPLE = 4000;
    private const TUKEY = 4.685;

    /**
     * @param list<float> $v
     * @param list<float> $w how much each counts, 0 or more
     *
     * @return array{float, float} centre and spread; both 0 where nothing counts
     */
    public static function of(array $v, array $w): array
    {
        $known = self::sample($v, $w);
        if ($known === []) {
            return [0.0, 0.0];
        }
        $centre = self::median($known);
        foreach ($known as $i => $x) {
            $known[$i] = $x < $centre ? $centre - $x : $x - $centre;
        }
        $spread = 1.4826 * self::median($known);
        if ($spread <= 0.0) {
            return [$centre, 0.0];
        }
        for ($step = 0; $step < 2; ++$step) {
            $centre = self::weighted($v, $w, $centre, self::TUKEY * $spread);
        }

        return [$centre, $spread];
    }

    /**
     * The value below which this share of them lies.
     *
     * @param list<float> $v
     * @param list<float> $w how much each counts; those under half are left out
     */
    public static function quantile(array $v, array $w, float $share): float
    {
        $known = self::sample($v, $w);

        return $known === [] ? 0.0 : self::selected($known, (int) round($share * (count($known) - 1)));
    }

    /** @param non-empty-list<float> $v */
    public static function median(array $v): float
    {
        $n = count($v);
        $upper = self::selected($v, $n >> 1);
        if ($n % 2 === 1) {
            return $upper;
        }
        // The one below it is the greatest of those that now lie before it.
        $lower = $v[0];
        for ($i = 1, $end = $n >> 1; $i < $end; ++$i) {
            if ($v[$i] > $lower) {
                $lower = $v[$i];
            }
        }

        return ($upper + $lower) / 2;
    }

    /**
     * The value that would stand at a place if they were sorted; those that are smaller are brought before it (C. Hoare, "Algorithm
     * 65: Find", CACM 4(7), 1961). Sorting all of them takes four times as long.
     *
     * @param non-empty-list<float> $v
     */
    private static function selected(array &$v, int $place): float
    {
        $left = 0;
        $right = count($v) - 1;
        while ($left < $right) {
            $pivot = $v[($left + $right) >> 1];
            $i = $left;
            $j = $right;
            while ($i <= $j) {
                while ($v[$i] < $pivot) {
                    ++$i;
                }
                while ($pivot < $v[$j]) {
                    --$j;
                }
                if ($i <= $j) {
                    $t = $v[$i];
                    $v[$i] = $v[$j];
                    $v[$j] = $t;
                    ++$i;
                    --$j;
                }
            }
            if ($j < $place) {
                $left = $i;
            }
            if ($place < $i) {
                $right = $j;
            }
        }

        return $v[$place];
    }

    /**
     * @param list<float> $v
     * @param list<float> $w
     *
     * @return list<float>
     */
    private static function sample(array $v, array $w): array
    {
        $counted = 0;
        foreach ($w as $k) {
            $counted += $k >= 0.5 ? 1 : 0;
        }
        $every = max(1, intdiv($counted, self::SAMPLE));
        $known = [];
        $n = 0;
        foreach ($w as $i => $k) {
            if ($k >= 0.5 && $n++ % $every === 0) {
                $known[] = $v[$i];
            }
        }

        return $known;
    }

    /**
     * @param list<float> $v
     * @param list<float> $w
     */
    private static function weighted(array $v, array $w, float $centre, float $reach): float
    {
        $sum = $of = 0.0;
        $inverse = 1.0 / $reach;
        foreach ($v as $i => $x) {
            $u = ($x - $centre) * $inverse;
            $u = 1.0 - $u * $u;
            if ($u > 0.0) {
                $k = $w[$i] * $u * $u;
                $sum += $k * $x;
                $of += $k;
            }
        }

        return $of > 0.0 ? $sum / $of : $centre;
    }
}
