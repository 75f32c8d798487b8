<?php

declare(strict_types=1);

namespace Cossel\Core\Face;

/**
 * Numbers that were measured frame by frame, made steady without lag: at each frame a parabola through what lies round it on both sides,
 * weighted towards the middle (A. Savitzky and M. Golay, Analytical Chemistry 36(8), 1964). Of several reaches the longest is taken whose
 * answer agrees with all shorter ones within their noise (A. Goldenshluger and A. Nemirovski, "On spatially adaptive estimation of
 * nonparametric regression", 1997): long where a thing rests, short where it moves.
 */
final class Steadied
{
    private const REACHES = [1, 2, 4, 7];
    /** How many spreads of its noise a shorter reach may disagree by. */
    private const AGREES = 1.4;
    /** Second differences of plain noise have this many times its spread. */
    private const SECOND = 2.449489742783178;

    /**
     * Each run of frames without a gap for itself.
     *
     * @param array<int, list<float>> $rows by frame, rising; as many numbers on each
     *
     * @return array<int, list<float>>
     */
    public static function runs(array $rows): array
    {
        $steady = $run = [];
        foreach ($rows as $frame => $row) {
            if ($run !== [] && !isset($run[$frame - 1])) {
                $steady += self::rows($run);
                $run = [];
            }
            $run[$frame] = $row;
        }

        return $run === [] ? $steady : $steady + self::rows($run);
    }

    /**
     * @param non-empty-array<int, list<float>> $rows by frame, without gaps
     *
     * @return non-empty-array<int, list<float>>
     */
    private static function rows(array $rows): array
    {
        $first = array_key_first($rows);
        $all = array_values($rows);
        $noise = self::noise($all);
        $n = count($all);
        $steady = [];
        foreach ($all as $k => $row) {
            $kept = $row;
            $shorter = [[$row, 1.0]];
            foreach (self::REACHES as $reach) {
                if ($k - $reach < 0 || $k + $reach >= $n) {
                    break;
                }
                [$weights, $left] = self::weights($reach);
                $now = self::weighed($all, $k, $reach, $weights);
                foreach ($shorter as [$then, $was]) {
                    if (self::apart($then, $now) > self::AGREES * $noise * ($was + $left)) {
                        break 2;
                    }
                }
                $kept = $now;
                $shorter[] = [$now, $left];
            }
            $steady[$first + $k] = $kept;
        }

        return $steady;
    }

    /**
     * The spread of what is measured: by second differences, which motion hardly has.
     *
     * @param list<list<float>> $all
     */
    private static function noise(array $all): float
    {
        $apart = [];
        for ($k = 1; $k + 1 < count($all); ++$k) {
            $sum = 0.0;
            foreach ($all[$k] as $i => $v) {
                $sum += ($all[$k - 1][$i] - 2 * $v + $all[$k + 1][$i]) ** 2;
            }
            $apart[] = sqrt($sum / max(1, count($all[$k])));
        }
        sort($apart);

        return $apart === [] ? 0.0 : $apart[intdiv(count($apart), 2)] / self::SECOND;
    }

    /**
     * What each frame within reach counts in the parabola's middle, and the share of the noise that is left then.
     *
     * @return array{list<float>, float}
     */
    private static function weights(int $reach): array
    {
        // Least squares with weights w of 1, t and t²: by symmetry the slope does not count in the middle.
        $s0 = $s2 = $s4 = 0.0;
        $w = [];
        for ($t = -$reach; $t <= $reach; ++$t) {
            $w[$t] = 1.0 - ($t / ($reach + 1)) ** 2;
            $s0 += $w[$t];
            $s2 += $w[$t] * $t ** 2;
            $s4 += $w[$t] * $t ** 4;
        }
        $weights = [];
        $left = 0.0;
        foreach ($w as $t => $v) {
            // Three frames are met by a parabola whatever they are: of them a line is told.
            $weights[] = $share = $reach === 1 ? $v / $s0 : $v * ($s4 - $s2 * $t ** 2) / ($s0 * $s4 - $s2 ** 2);
            $left += $share ** 2;
        }

        return [$weights, sqrt($left)];
    }

    /**
     * @param list<list<float>> $all
     * @param list<float>       $weights
     *
     * @return list<float>
     */
    private static function weighed(array $all, int $k, int $reach, array $weights): array
    {
        $row = array_fill(0, count($all[$k]), 0.0);
        foreach ($weights as $t => $weight) {
            foreach ($all[$k + $t - $reach] as $i => $v) {
                $row[$i] += $weight * $v;
            }
        }

        return array_values($row);
    }

    /**
     * @param list<float> $a
     * @param list<float> $b
     */
    private static function apart(array $a, array $b): float
    {
        $sum = 0.0;
        foreach ($a as $i => $v) {
            $sum += ($v - $b[$i]) ** 2;
        }

        return sqrt($sum / max(1, count($a)));
    }
}
