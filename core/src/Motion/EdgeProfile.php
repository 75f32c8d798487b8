<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Picture\Grey;

/** Values across an edge, from inside to outside, one pixel apart, their mean taken off. Kernel class. */
final class EdgeProfile
{
    /** A profile reaches this far to either side, pixels. */
    public const ACROSS = 7;

    /** @return list<float> */
    public static function of(Grey $plane, float $x, float $y, float $nx, float $ny): array
    {
        return self::centred(self::line($plane, $x, $y, $nx, $ny, self::ACROSS), 0);
    }

    /** @return list<float> values along a line across the edge, from inside to outside, one pixel apart */
    public static function line(Grey $plane, float $x, float $y, float $nx, float $ny, int $reach): array
    {
        $w = $plane->rect->width;
        $right = $w - 1.001;
        $low = $plane->rect->height - 1.001;
        $x -= $plane->rect->x + 0.5 + $reach * $nx;
        $y -= $plane->rect->y + 0.5 + $reach * $ny;
        $line = [];
        for ($k = 2 * $reach; $k >= 0; --$k) {
            $px = $x < 0.0 ? 0.0 : ($x > $right ? $right : $x);
            $py = $y < 0.0 ? 0.0 : ($y > $low ? $low : $y);
            $ix = (int) $px;
            $iy = (int) $py;
            $fx = $px - $ix;
            $fy = $py - $iy;
            $i = $iy * $w + $ix;
            $top = $plane->v[$i] + ($plane->v[$i + 1] - $plane->v[$i]) * $fx;
            $i += $w;
            $line[] = $top + ($plane->v[$i] + ($plane->v[$i + 1] - $plane->v[$i]) * $fx - $top) * $fy;
            $x += $nx;
            $y += $ny;
        }

        return $line;
    }

    /**
     * A profile's length of a line, its mean taken off.
     *
     * @param list<float> $line
     *
     * @return list<float>
     */
    public static function centred(array $line, int $from): array
    {
        $n = 2 * self::ACROSS + 1;
        $mean = 0.0;
        for ($i = $from, $end = $from + $n; $i < $end; ++$i) {
            $mean += $line[$i];
        }
        $mean /= $n;
        $out = [];
        for ($i = $from; $i < $end; ++$i) {
            $out[] = $line[$i] - $mean;
        }

        return $out;
    }

    /**
     * Mean squared difference of two profiles.
     *
     * @param list<float> $a
     * @param list<float> $b
     */
    public static function miss(array $a, array $b): float
    {
        $sum = 0.0;
        foreach ($a as $i => $v) {
            $d = $v - $b[$i];
            $sum += $d * $d;
        }

        return $sum / (2 * self::ACROSS + 1);
    }

    /**
     * A plain step, higher inside, as high as the clearer ones of these profiles: where a path does not lie on its edge
     * yet, its own profile tells little.
     *
     * @param non-empty-list<list<float>> $profiles
     *
     * @return list<float>
     */
    public static function stepped(array $profiles): array
    {
        $heights = array_map(static fn(array $p): float => (array_sum(
            array_slice($p, 0, self::ACROSS),
        ) - array_sum(array_slice($p, -self::ACROSS))) / self::ACROSS, $profiles);
        sort($heights);
        $half = max(0.01, $heights[(int) (0.8 * count($heights))] / 2);

        return [...array_fill(0, self::ACROSS, $half), 0.0, ...array_fill(0, self::ACROSS, -$half)];
    }
}
