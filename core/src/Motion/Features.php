<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Picture\Grey;

/**
 * Points that can be followed: large smaller eigenvalue of the gradients' structure tensor, well spread.
 * Source: J. Shi and C. Tomasi, "Good Features to Track", CVPR 1994. Kernel class.
 */
final class Features
{
    private const HALF = 3;

    /**
     * @param Grey $grey    luma
     * @param Grey $mask    over the same rectangle; points lie where it is over 0.5
     * @param float $apart  least distance between points, pixels
     *
     * @return list<array{float, float}> positions in the frame, best first
     */
    public static function find(Grey $grey, Grey $mask, float $apart, int $most): array
    {
        $w = $grey->rect->width;
        $h = $grey->rect->height;
        $n = $w * $h;
        $xx = $xy = $yy = array_fill(0, $n, 0.0);
        self::tensor($grey->v, $w, $h, $xx, $xy, $yy);
        $score = self::scores(self::boxed($xx, $w, $h), self::boxed($xy, $w, $h), self::boxed($yy, $w, $h), $mask->v, $w, $h);
        arsort($score);
        $floor = ($score === [] ? 0.0 : reset($score)) * 2e-4;

        return self::spread($score, $grey, $floor, $apart, $most);
    }

    /**
     * @param array<int, float> $score by falling value
     *
     * @return list<array{float, float}>
     */
    private static function spread(array $score, Grey $grey, float $floor, float $apart, int $most): array
    {
        $w = $grey->rect->width;
        $points = [];
        $cells = [];
        foreach ($score as $i => $value) {
            if ($value <= $floor || count($points) >= $most) {
                break;
            }
            $x = $i % $w;
            $y = intdiv($i, $w);
            $cx = (int) ($x / $apart);
            $cy = (int) ($y / $apart);
            for ($r = $cy - 1; $r <= $cy + 1; ++$r) {
                for ($c = $cx - 1; $c <= $cx + 1; ++$c) {
                    foreach ($cells["{$r} {$c}"] ?? [] as [$ox, $oy]) {
                        if (($ox - $x) ** 2 + ($oy - $y) ** 2 < $apart * $apart) {
                            continue 4;
                        }
                    }
                }
            }
            $cells["{$cy} {$cx}"][] = [$x, $y];
            $points[] = [$grey->rect->x + $x + 0.5, $grey->rect->y + $y + 0.5];
        }

        return $points;
    }

    /**
     * @param list<float> $v
     * @param list<float> $xx
     * @param list<float> $xy
     * @param list<float> $yy
     */
    private static function tensor(array $v, int $w, int $h, array &$xx, array &$xy, array &$yy): void
    {
        for ($y = 1; $y < $h - 1; ++$y) {
            for ($i = $y * $w + 1, $end = $y * $w + $w - 1; $i < $end; ++$i) {
                $gx = $v[$i + 1] - $v[$i - 1];
                $gy = $v[$i + $w] - $v[$i - $w];
                $xx[$i] = $gx * $gx;
                $xy[$i] = $gx * $gy;
                $yy[$i] = $gy * $gy;
            }
        }
    }

    /**
     * Sums over (2 HALF + 1)^2 pixels; the rim stays 0.
     *
     * @param list<float> $v
     *
     * @return list<float>
     */
    private static function boxed(array $v, int $w, int $h): array
    {
        $half = self::HALF;
        $rows = $out = array_fill(0, $w * $h, 0.0);
        for ($y = 0; $y < $h; ++$y) {
            $sum = 0.0;
            for ($x = 0; $x < $w; ++$x) {
                $i = $y * $w + $x;
                $sum += $v[$i];
                if ($x > 2 * $half) {
                    $sum -= $v[$i - 2 * $half - 1];
                }
                if ($x >= 2 * $half) {
                    $rows[$i - $half] = $sum;
                }
            }
        }
        for ($x = $half; $x < $w - $half; ++$x) {
            $sum = 0.0;
            for ($y = 0; $y < $h; ++$y) {
                $i = $y * $w + $x;
                $sum += $rows[$i];
                if ($y > 2 * $half) {
                    $sum -= $rows[$i - (2 * $half + 1) * $w];
                }
                if ($y >= 2 * $half) {
                    $out[$i - $half * $w] = $sum;
                }
            }
        }

        return $out;
    }

    /**
     * @param list<float> $xx
     * @param list<float> $xy
     * @param list<float> $yy
     * @param list<float> $mask
     *
     * @return array<int, float> the local maxima
     */
    private static function scores(array $xx, array $xy, array $yy, array $mask, int $w, int $h): array
    {
        $s = array_fill(0, $w * $h, 0.0);
        for ($i = 0, $n = $w * $h; $i < $n; ++$i) {
            if ($mask[$i] > 0.5) {
                $a = 0.5 * ($xx[$i] + $yy[$i]);
                $b = 0.5 * ($xx[$i] - $yy[$i]);
                $s[$i] = $a - sqrt($b * $b + $xy[$i] * $xy[$i]);
            }
        }
        $peaks = [];
        for ($y = 1; $y < $h - 1; ++$y) {
            for ($i = $y * $w + 1, $end = $y * $w + $w - 1; $i < $end; ++$i) {
                $v = $s[$i];
                if ($v > 0.0 && $v >= $s[$i - 1] && $v > $s[$i + 1] && $v >= $s[$i - $w] && $v > $s[$i + $w]) {
                    $peaks[$i] = $v;
                }
            }
        }

        return $peaks;
    }
}
