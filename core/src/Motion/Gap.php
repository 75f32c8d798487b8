<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Recipe\PathPoint;

/**
 * How long a follower has not seen its thing: how far it is to be looked for, and where it was meanwhile, laid straight
 * between where it was seen last and where it is found again.
 *
 * @internal
 */
final class Gap
{
    /** @param int $seen the frame on which the thing was seen last */
    public function __construct(private int $seen) {}

    /** Frames since then; 1 on the very next. */
    public function since(int $frame): int
    {
        return abs($frame - $this->seen);
    }

    /** How far to look: so far where it was seen on the frame before, else further by each frame since, up to a most. */
    public function reach(int $frame, float $next, float $first, float $more, float $most): float
    {
        $since = $this->since($frame);

        return $since === 1 ? $next : min($most, $first + $more * $since);
    }

    /**
     * It is seen again.
     *
     * @param callable(float, int): Step $between the step so far from where it was seen last (0) to where it is now (1), and its frame
     *
     * @return \Generator<int, Step> the frames it was not seen on
     */
    public function closed(int $frame, callable $between): \Generator
    {
        $since = $this->since($frame);
        $direction = $frame >= $this->seen ? 1 : -1;
        $from = $this->seen;
        $this->seen = $frame;
        for ($k = 1; $k < $since; ++$k) {
            yield $from + $k * $direction => $between($k / $since, $from + $k * $direction);
        }
    }

    public static function mixed(Matrix $from, Matrix $to, float $t): Matrix
    {
        return Matrix::of(array_map(static fn(float $a, float $b): float => $a + ($b - $a) * $t, $from->m, $to->m));
    }

    /**
     * @param list<PathPoint> $from
     * @param list<PathPoint> $to
     *
     * @return list<PathPoint>
     */
    public static function mixedPath(array $from, array $to, float $t): array
    {
        return array_map(static fn(PathPoint $a, PathPoint $b): PathPoint => $a->mixed($b, $t), $from, $to);
    }
}
