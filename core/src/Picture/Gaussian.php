<?php

declare(strict_types=1);

namespace Cossel\Core\Picture;

/**
 * Gaussian blur of one plane. Beyond its edges a plane goes on as it ends. Kernel class.
 *
 * Small ones (sigma under 2 pixels) by the sampled Gaussian to four sigma; larger ones by three box filters with
 * fractional ends, which have just the wanted variance (P. Gwosdek et al., "Theoretical foundations of Gaussian
 * convolution by extended box filtering", SSVM 2011): the time does not grow with sigma.
 */
final class Gaussian
{
    private const SMALL = 2.0;
    private const BOXES = 3;

    /** How far around a pixel it looks, in pixels. */
    public static function reach(float $sigma): int
    {
        if ($sigma <= 0.0) {
            return 0;
        }

        return $sigma < self::SMALL ? (int) ceil(4 * $sigma) : self::BOXES * (self::box($sigma)[0] + 1);
    }

    /** @param float $sigma in pixels; 0 and less leave the plane as it is */
    public static function blur(Grey $plane, float $sigma): Grey
    {
        return new Grey($plane->rect, self::values($plane->v, $plane->rect->width, $plane->rect->height, $sigma));
    }

    /**
     * @param list<float> $v
     *
     * @return list<float>
     */
    public static function values(array $v, int $width, int $height, float $sigma): array
    {
        if ($sigma <= 0.0 || $v === []) {
            return $v;
        }
        if ($sigma < self::SMALL) {
            $taps = self::taps($sigma);

            return self::downTaps(self::acrossTaps($v, $width, $height, $taps), $width, $height, $taps);
        }
        [$radius, $end] = self::box($sigma);
        for ($i = 0; $i < self::BOXES; ++$i) {
            $v = self::downBox(self::acrossBox($v, $width, $height, $radius, $end), $width, $height, $radius, $end);
        }

        return $v;
    }

    /**
     * The mean of the square round each: one box instead of a Gaussian.
     *
     * @param list<float> $v
     * @param int         $radius how far the square goes from its middle
     *
     * @return list<float>
     */
    public static function mean(array $v, int $width, int $height, int $radius): array
    {
        return self::downBox(self::acrossBox($v, $width, $height, $radius, 0.0), $width, $height, $radius, 0.0);
    }

    /**
     * Radius of the boxes, and how much of the next pixel on either side counts.
     *
     * @return array{int, float}
     */
    private static function box(float $sigma): array
    {
        $variance = $sigma * $sigma / self::BOXES;
        $radius = (int) floor((sqrt(12 * $variance + 1) - 1) / 2);

        return [$radius, (2 * $radius + 1) * ($radius * ($radius + 1) - 3 * $variance) / (6 * ($variance - ($radius + 1) ** 2))];
    }

    /** @return list<float> from the middle outwards */
    private static function taps(float $sigma): array
    {
        $taps = [];
        for ($i = 0, $n = (int) ceil(4 * $sigma); $i <= $n; ++$i) {
            $taps[] = exp(-$i * $i / (2 * $sigma * $sigma));
        }
        $sum = 2 * array_sum($taps) - $taps[0];

        return array_map(static fn(float $t): float => $t / $sum, $taps);
    }

    /**
     * @param list<float> $v
     * @param list<float> $taps
     *
     * @return list<float>
     */
    private static function acrossTaps(array $v, int $width, int $height, array $taps): array
    {
        $n = count($taps) - 1;
        $out = $v;
        for ($y = 0; $y < $height; ++$y) {
            $row = $y * $width;
            $last = $row + $width - 1;
            for ($i = $row; $i <= $last; ++$i) {
                $sum = $v[$i] * $taps[0];
                for ($t = 1; $t <= $n; ++$t) {
                    $a = $i - $t;
                    $b = $i + $t;
                    $sum += ($v[$a < $row ? $row : $a] + $v[$b > $last ? $last : $b]) * $taps[$t];
                }
                $out[$i] = $sum;
            }
        }

        return $out;
    }

    /**
     * @param list<float> $v
     * @param list<float> $taps
     *
     * @return list<float>
     */
    private static function downTaps(array $v, int $width, int $height, array $taps): array
    {
        $n = count($taps) - 1;
        $out = $v;
        $last = ($height - 1) * $width;
        for ($y = 0; $y < $height; ++$y) {
            $row = $y * $width;
            $middle = $taps[0];
            for ($i = $row, $end = $row + $width; $i < $end; ++$i) {
                $out[$i] = $v[$i] * $middle;
            }
            for ($t = 1; $t <= $n; ++$t) {
                $a = max(0, $row - $t * $width);
                $b = min($last, $row + $t * $width);
                $k = $taps[$t];
                for ($i = $row; $i < $end; ++$i) {
                    $out[$i] += ($v[$a++] + $v[$b++]) * $k;
                }
            }
        }

        return $out;
    }

    /**
     * @param list<float> $v
     *
     * @return list<float>
     */
    private static function acrossBox(array $v, int $width, int $height, int $radius, float $share): array
    {
        $k = 1.0 / (2 * $radius + 1 + 2 * $share);
        $out = $v;
        for ($y = 0; $y < $height; ++$y) {
            $row = $y * $width;
            $last = $row + $width - 1;
            $sum = ($radius + 1) * $v[$row];
            for ($t = 0; $t < $radius; ++$t) {
                $sum += $v[$row + $t > $last ? $last : $row + $t];
            }
            $beyond = $v[$row + $radius > $last ? $last : $row + $radius];
            for ($i = $row; $i <= $last; ++$i) {
                $a = $i - $radius - 1;
                $b = $i + $radius + 1;
                $before = $v[$a < $row ? $row : $a];
                $sum += $beyond - $before;
                $beyond = $v[$b > $last ? $last : $b];
                $out[$i] = ($sum + $share * ($before + $beyond)) * $k;
            }
        }

        return $out;
    }

    /**
     * @param list<float> $v
     *
     * @return list<float>
     */
    private static function downBox(array $v, int $width, int $height, int $radius, float $share): array
    {
        $k = 1.0 / (2 * $radius + 1 + 2 * $share);
        $out = $v;
        $last = ($height - 1) * $width;
        $sums = [];
        for ($x = 0; $x < $width; ++$x) {
            $sums[] = ($radius + 1) * $v[$x];
        }
        for ($t = 0; $t < $radius; ++$t) {
            $from = min($last, $t * $width);
            for ($x = 0; $x < $width; ++$x) {
                $sums[$x] += $v[$from + $x];
            }
        }
        for ($y = 0, $i = 0; $y < $height; ++$y) {
            $a = max(0, ($y - $radius - 1) * $width);
            $b = min($last, ($y + $radius) * $width);
            $c = min($last, ($y + $radius + 1) * $width);
            for ($x = 0; $x < $width; ++$x) {
                $before = $v[$a++];
                $sum = $sums[$x] + $v[$b++] - $before;
                $sums[$x] = $sum;
                $out[$i++] = ($sum + $share * ($before + $v[$c++])) * $k;
            }
        }

        return $out;
    }
}
