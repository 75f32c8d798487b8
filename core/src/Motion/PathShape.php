<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Recipe\PathPoint;

/** Measures of paths of as many points each, of one thing on two frames. Pixels. */
final class PathShape
{
    /**
     * Mean distance of the points of two states of a path.
     *
     * @param list<PathPoint> $points
     * @param list<PathPoint> $home
     */
    public static function apart(array $points, array $home): float
    {
        $apart = static fn(PathPoint $a, PathPoint $b): float => hypot($a->x - $b->x, $a->y - $b->y);

        return array_sum(array_map($apart, $points, $home)) / max(1, count($points));
    }

    /** @param list<PathPoint> $points */
    public static function size(array $points): float
    {
        $xs = array_map(static fn(PathPoint $p): float => $p->x, $points);
        $ys = array_map(static fn(PathPoint $p): float => $p->y, $points);

        return $xs === [] || $ys === [] ? 0.0 : hypot(max($xs) - min($xs), max($ys) - min($ys));
    }

    /** @param list<PathPoint> $points */
    public static function area(array $points): float
    {
        $area = 0.0;
        foreach ($points as $i => $p) {
            $q = $points[($i + 1) % count($points)];
            $area += $p->x * $q->y - $q->x * $p->y;
        }

        return abs($area) / 2;
    }

    /**
     * A path no further from another, on the whole, than this.
     *
     * @param list<PathPoint> $points
     * @param list<PathPoint> $home
     *
     * @return list<PathPoint>
     */
    public static function within(array $points, array $home, float $most): array
    {
        $apart = self::apart($points, $home);

        return $apart <= $most ? $points : Gap::mixedPath($home, $points, $most / $apart);
    }

    /**
     * @param list<PathPoint> $points
     *
     * @return list<float>
     */
    public static function numbers(array $points): array
    {
        return array_merge(...array_map(static fn(PathPoint $p): array => [$p->x, $p->y, $p->inX, $p->inY, $p->outX, $p->outY], $points));
    }

    /**
     * @param list<float> $numbers of points, as {@see numbers} gives them
     *
     * @return list<PathPoint>
     */
    public static function points(array $numbers): array
    {
        return array_map(static fn(array $p): PathPoint => new PathPoint(...$p), array_chunk($numbers, 6));
    }

    /**
     * @param list<PathPoint> $from
     * @param list<PathPoint> $to
     */
    public static function meanShift(array $from, array $to, string $axis): float
    {
        return array_sum(array_map(static fn(PathPoint $a, PathPoint $b): float => $b->{$axis} - $a->{$axis}, $from, $to)) / count($from);
    }
}
