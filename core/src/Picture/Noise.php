<?php

declare(strict_types=1);

namespace Cossel\Core\Picture;

/** How strong the grain of a picture is. */
final class Noise
{
    /** Pixels apart that it is told from: next to each other they are alike. */
    private const STEP = 2;
    private const SAMPLE = 4000;

    /**
     * The spread of the grain from how values bend along a row, v(x - 2) - 2 v(x) + v(x + 2): light hardly bends over some pixels, and
     * edges are few.
     *
     * @param list<float>      $v     row by row
     * @param list<float>|null $where 1 where values count; everywhere when left out
     */
    public static function of(array $v, ?array $where = null): float
    {
        $bends = [];
        $n = count($v) - self::STEP;
        $every = max(1, intdiv($n, self::SAMPLE));
        for ($i = self::STEP; $i < $n; $i += $every) {
            if ($where === null || min($where[$i - self::STEP], $where[$i], $where[$i + self::STEP]) > 0.0) {
                $bends[] = $v[$i - self::STEP] - 2 * $v[$i] + $v[$i + self::STEP];
            }
        }

        return Robust::of($bends, array_fill(0, count($bends), 1.0))[1] / sqrt(6);
    }
}
