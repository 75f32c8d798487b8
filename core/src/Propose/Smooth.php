<?php

declare(strict_types=1);

namespace Cossel\Core\Propose;

use Cossel\Core\Recipe\PathPoint;

/** Smooth closed paths through points. */
final class Smooth
{
    /**
     * Each point's handles lie along its neighbours (Catmull and Rom, 1974).
     *
     * @param list<array{float, float}> $points
     * @param list<int>                 $corners indices of points without handles
     *
     * @return list<PathPoint>
     */
    public static function path(array $points, array $corners): array
    {
        $n = count($points);
        $path = [];
        foreach ($points as $i => [$x, $y]) {
            [$px, $py] = $points[($i + $n - 1) % $n];
            [$qx, $qy] = $points[($i + 1) % $n];
            $hx = in_array($i, $corners, true) ? 0.0 : ($qx - $px) / 6;
            $hy = in_array($i, $corners, true) ? 0.0 : ($qy - $py) / 6;
            $path[] = self::rounded(new PathPoint($x, $y, -$hx, -$hy, $hx, $hy));
        }

        return $path;
    }

    /** To a millionth of the picture's height. */
    public static function rounded(PathPoint $p): PathPoint
    {
        $numbers = [$p->x, $p->y, $p->inX, $p->inY, $p->outX, $p->outY];

        return new PathPoint(...array_map(static fn(float $v): float => round($v, 6), $numbers));
    }
}
