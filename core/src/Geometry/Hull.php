<?php

declare(strict_types=1);

namespace Cossel\Core\Geometry;

/** The convex hull of places (A. Andrew, "Another efficient algorithm for convex hulls in two dimensions", 1979). */
final class Hull
{
    /**
     * @param list<array{float, float}> $places
     *
     * @return list<array{float, float}> its corners, all the way round
     */
    public static function of(array $places): array
    {
        sort($places);
        $hull = [];
        foreach ([$places, array_reverse($places)] as $half) {
            $from = count($hull);
            foreach ($half as $p) {
                while (($n = count($hull)) >= $from + 2 && self::turns($hull[$n - 2], $hull[$n - 1], $p) <= 0.0) {
                    array_pop($hull);
                }
                $hull[] = $p;
            }
            array_pop($hull);
        }

        return $hull;
    }

    /**
     * @param array{float, float} $a
     * @param array{float, float} $b
     * @param array{float, float} $c
     */
    private static function turns(array $a, array $b, array $c): float
    {
        return ($b[0] - $a[0]) * ($c[1] - $a[1]) - ($b[1] - $a[1]) * ($c[0] - $a[0]);
    }
}
