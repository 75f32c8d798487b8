<?php

declare(strict_types=1);

namespace Cossel\Core\Propose;

use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Rect;

/**
 * Where a picture is dark and round: every pixel votes, along its own gradient, for the places from which its edge would lie one
 * radius away (G. Loy and A. Zelinsky, "Fast Radial Symmetry for Detecting Points of Interest", PAMI 25(8), 2003; here with the
 * orientation of gradients only, so that a catch light or a strong lamp counts no more than a faint edge). Kernel class.
 */
final class RoundPlaces
{
    /** Lids hide what is above and below: the edges to the left and right vote, those this much across, and both sides must agree. */
    private const SIDE = 0.6;
    /** Share of pixels, those with the steepest gradients, that vote. */
    private const VOTING = 0.25;
    /** How many of a circle's edge must agree, of all, to be told at all. */
    private const LEAST = 0.12;

    /**
     * @param Grey        $luma  small: circles of 4 to some 30 pixels are looked for
     * @param list<float> $radii pixels
     *
     * @return list<array{float, float, float, float}> place, radius and the share of the circle that agrees, best first
     */
    public static function of(Grey $luma, array $radii, int $most): array
    {
        [$ways, $places] = self::gradients($luma);
        $found = [];
        foreach ($radii as $radius) {
            $sides = self::votes($luma->rect->width, $luma->rect->height, $ways, $places, $radius);
            array_push($found, ...self::peaks($sides, $luma->rect, $radius));
        }
        usort($found, static fn(array $a, array $b): int => $b[3] <=> $a[3]);
        $kept = [];
        foreach ($found as $one) {
            foreach ($kept as $other) {
                if (hypot($one[0] - $other[0], $one[1] - $other[1]) < 0.5 * max($one[2], $other[2])) {
                    continue 2;
                }
            }
            $kept[] = $one;
            if (count($kept) === $most) {
                break;
            }
        }

        return $kept;
    }

    /**
     * @return array{list<array{float, float}>, list<int>} directions out of the dark, and where
     */
    private static function gradients(Grey $luma): array
    {
        $w = $luma->rect->width;
        $h = $luma->rect->height;
        $v = $luma->v;
        $steep = $of = [];
        for ($y = 1; $y < $h - 1; ++$y) {
            for ($x = 1, $i = $y * $w + 1; $x < $w - 1; ++$x, ++$i) {
                $gx = $v[$i + 1] - $v[$i - 1] + 0.5 * ($v[$i + 1 - $w] - $v[$i - 1 - $w] + $v[$i + 1 + $w] - $v[$i - 1 + $w]);
                $gy = $v[$i + $w] - $v[$i - $w] + 0.5 * ($v[$i + $w - 1] - $v[$i - $w - 1] + $v[$i + $w + 1] - $v[$i - $w + 1]);
                // Edges of dark things are as clear in the dark.
                $steep[] = sqrt($gx * $gx + $gy * $gy) / ($v[$i] + 0.1);
                $of[] = [$i, $gx, $gy];
            }
        }
        $sorted = $steep;
        sort($sorted);
        $least = max(1e-3, $sorted[(int) ((1 - self::VOTING) * (count($sorted) - 1))] ?? INF);
        $ways = $places = [];
        foreach ($of as $k => [$i, $gx, $gy]) {
            $length = sqrt($gx * $gx + $gy * $gy);
            if ($steep[$k] >= $least && abs($gx) > self::SIDE * $length) {
                $ways[] = [$gx / $length, $gy / $length];
                $places[] = $i;
            }
        }

        return [$ways, $places];
    }

    /**
     * @param list<array{float, float}> $ways
     * @param list<int>                 $places
     *
     * @return array{list<float>, list<float>} votes of edges on the left and on the right of what is round
     */
    private static function votes(int $w, int $h, array $ways, array $places, float $radius): array
    {
        $left = $right = array_fill(0, $w * $h, 0.0);
        foreach ($places as $k => $i) {
            [$gx, $gy] = $ways[$k];
            $x = $i % $w - $radius * $gx;
            $y = intdiv($i, $w) - $radius * $gy;
            if ($x >= 0.0 && $y >= 0.0 && $x < $w - 0.5 && $y < $h - 0.5) {
                $at = (int) ($y + 0.5) * $w + (int) ($x + 0.5);
                if ($gx < 0) {
                    $left[$at] += 1.0;
                } else {
                    $right[$at] += 1.0;
                }
            }
        }

        return [$left, $right];
    }

    /**
     * @param array{list<float>, list<float>} $sides
     *
     * @return list<array{float, float, float, float}>
     */
    private static function peaks(array $sides, Rect $rect, float $radius): array
    {
        $w = $rect->width;
        // What is round by a tenth of the radius agrees still.
        $reach = max(1, (int) round(0.2 * $radius));
        [$left, $right] = array_map(static fn(array $votes): array => self::summed($votes, $w, $rect->height, $reach), $sides);
        $sums = [];
        foreach ($left as $i => $v) {
            $sums[] = min($v, $right[$i]);
        }
        $edge = 2 * acos(self::SIDE) * $radius;
        $peaks = [];
        for ($y = $reach; $y < $rect->height - $reach; ++$y) {
            for ($x = $reach, $i = $y * $w + $reach; $x < $w - $reach; ++$x, ++$i) {
                $v = $sums[$i];
                if (
                    $v > self::LEAST * $edge
                    && $v >= $sums[$i - 1] && $v >= $sums[$i + 1] && $v >= $sums[$i - $w] && $v >= $sums[$i + $w]
                ) {
                    $peaks[] = [$rect->x + $x + 0.5, $rect->y + $y + 0.5, $radius, $v / $edge];
                }
            }
        }

        return $peaks;
    }

    /**
     * Sums over squares round each pixel.
     *
     * @param list<float> $v
     *
     * @return list<float>
     */
    private static function summed(array $v, int $w, int $h, int $reach): array
    {
        $across = $v;
        for ($y = 0; $y < $h; ++$y) {
            $sum = 0.0;
            for ($x = 0, $i = $y * $w; $x < $w + $reach; ++$x, ++$i) {
                $sum += $x < $w ? $v[$i] : 0.0;
                $sum -= $x > 2 * $reach ? $v[$i - 2 * $reach - 1] : 0.0;
                if ($x >= $reach) {
                    $across[$i - $reach] = $sum;
                }
            }
        }
        $out = $across;
        for ($x = 0; $x < $w; ++$x) {
            $sum = 0.0;
            for ($y = 0, $i = $x; $y < $h + $reach; ++$y, $i += $w) {
                $sum += $y < $h ? $across[$i] : 0.0;
                $sum -= $y > 2 * $reach ? $across[$i - (2 * $reach + 1) * $w] : 0.0;
                if ($y >= $reach) {
                    $out[$i - $reach * $w] = $sum;
                }
            }
        }

        return $out;
    }
}
