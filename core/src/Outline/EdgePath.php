<?php

declare(strict_types=1);

namespace Cossel\Core\Outline;

use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\PathPoint;

/**
 * A path along the visible edges of a picture between two places: the cheapest way from pixel to pixel, where steps along
 * strong gradients are cheap (E. Mortensen and W. Barrett, "Intelligent Scissors for Image Composition", SIGGRAPH 1995),
 * then fitted to few Bézier pieces (see {@see CurveFit}). The cheapest way is found with whole-number costs in buckets
 * (R. Dial, CACM 12(11), 1969). Kernel class.
 */
final class EdgePath
{
    /** Furthest the path may be from the pixels of the way, pixels. */
    private const TOLERANCE = 1.1;
    /** A click is drawn to the strongest edge this near, pixels. */
    private const SNAP = 4;
    /** How much a step away from all edges costs against one along the strongest. */
    private const AWAY = 24;
    /** Furthest apart two places may be, pixels. */
    public const FURTHEST = 500;

    /**
     * The part of the picture that is looked at.
     *
     * @param array{float, float} $from pixels
     * @param array{float, float} $to
     */
    public static function window(array $from, array $to, Rect $frame): Rect
    {
        $more = 16 + 0.35 * hypot($to[0] - $from[0], $to[1] - $from[1]);

        return Rect::around(
            min($from[0], $to[0]) - $more,
            min($from[1], $to[1]) - $more,
            max($from[0], $to[0]) + $more,
            max($from[1], $to[1]) + $more,
        )->intersect($frame);
    }

    /**
     * @param Planes              $planes R'G'B' over the window
     * @param array{float, float} $from   pixels; where the last piece ended, taken as it is
     * @param array{float, float} $to     drawn to an edge nearby
     *
     * @return list<PathPoint> from the one place to the other, pixels
     */
    public static function between(Planes $planes, array $from, array $to): array
    {
        $rect = $planes->rect;
        $w = $rect->width;
        $h = $rect->height;
        if ($w < 8 || $h < 8) {
            return [new PathPoint(...$from), new PathPoint(...$to)];
        }
        $strength = self::strength($planes->r, $planes->g, $planes->b, $w, $h);
        $pixel = static fn(array $p): int => max(1, min($h - 2, (int) ($p[1] - $rect->y))) * $w
            + max(1, min($w - 2, (int) ($p[0] - $rect->x)));
        $start = $pixel($from);
        $end = self::snapped($strength, $pixel($to), $w, $h);
        $line = [];
        foreach (self::way($strength, $start, $end, $w, $h) as $i) {
            $line[] = [$rect->x + $i % $w + 0.5, $rect->y + intdiv($i, $w) + 0.5];
        }
        $line[0] = $from;

        return CurveFit::open(self::smoothed($line), self::TOLERANCE);
    }

    /**
     * Gradient of the channel that changes most, as a share of the strong ones in the window, 0 to 1.
     *
     * @param list<float> $r
     * @param list<float> $g
     * @param list<float> $b
     *
     * @return list<float>
     */
    private static function strength(array $r, array $g, array $b, int $w, int $h): array
    {
        $out = array_fill(0, $w * $h, 0.0);
        for ($y = 1; $y < $h - 1; ++$y) {
            for ($i = $y * $w + 1, $end = $y * $w + $w - 1; $i < $end; ++$i) {
                $most = 0.0;
                $dx = $r[$i + 1] - $r[$i - 1];
                $dy = $r[$i + $w] - $r[$i - $w];
                $most = $dx * $dx + $dy * $dy;
                $dx = $g[$i + 1] - $g[$i - 1];
                $dy = $g[$i + $w] - $g[$i - $w];
                $d = $dx * $dx + $dy * $dy;
                $most = $d > $most ? $d : $most;
                $dx = $b[$i + 1] - $b[$i - 1];
                $dy = $b[$i + $w] - $b[$i - $w];
                $d = $dx * $dx + $dy * $dy;
                $out[$i] = sqrt($d > $most ? $d : $most);
            }
        }
        $sorted = $out;
        sort($sorted);
        $strong = max(1e-4, $sorted[(int) (0.98 * count($sorted))]);
        foreach ($out as $i => $v) {
            $out[$i] = $v >= $strong ? 1.0 : $v / $strong;
        }

        return $out;
    }

    /** @param list<float> $strength */
    private static function snapped(array $strength, int $at, int $w, int $h): int
    {
        $x = $at % $w;
        $y = intdiv($at, $w);
        $best = $at;
        $most = $strength[$at];
        for ($v = max(1, $y - self::SNAP); $v <= min($h - 2, $y + self::SNAP); ++$v) {
            for ($u = max(1, $x - self::SNAP); $u <= min($w - 2, $x + self::SNAP); ++$u) {
                $score = $strength[$v * $w + $u] * (1 - 0.06 * hypot($u - $x, $v - $y));
                if ($score > $most + 0.05) {
                    $most = $score;
                    $best = $v * $w + $u;
                }
            }
        }

        return $best;
    }

    /**
     * @param list<float> $strength
     *
     * @return non-empty-list<int> pixels from start to end
     */
    private static function way(array $strength, int $start, int $end, int $w, int $h): array
    {
        $cost = [];
        foreach ($strength as $v) {
            $cost[] = 2 + (int) (self::AWAY * (1.0 - $v) * (1.0 - $v));
        }
        $steps = [[-1, 10], [1, 10], [-$w, 10], [$w, 10], [-$w - 1, 14], [-$w + 1, 14], [$w - 1, 14], [$w + 1, 14]];
        $known = array_fill(0, $w * $h, PHP_INT_MAX);
        $before = array_fill(0, $w * $h, -1);
        $known[$start] = 0;
        $buckets = [0 => [$start]];
        for ($now = 0, $furthest = 0; $now <= $furthest; ++$now) {
            if (!isset($buckets[$now])) {
                continue;
            }
            foreach ($buckets[$now] as $i) {
                if ($known[$i] !== $now) {
                    continue;
                }
                if ($i === $end) {
                    break 2;
                }
                $x = $i % $w;
                if ($x === 0 || $x === $w - 1 || $i < $w || $i >= $w * ($h - 1)) {
                    continue;
                }
                foreach ($steps as [$by, $length]) {
                    $j = $i + $by;
                    $next = $now + $length * $cost[$j];
                    if ($next < $known[$j]) {
                        $known[$j] = $next;
                        $before[$j] = $i;
                        $buckets[$next][] = $j;
                        $furthest = $next > $furthest ? $next : $furthest;
                    }
                }
            }
            unset($buckets[$now]);
        }
        $way = [$end];
        for ($i = $end; $before[$i] >= 0; $i = $before[$i]) {
            $way[] = $before[$i];
        }

        return array_reverse($way);
    }

    /**
     * @param non-empty-list<array{float, float}> $line
     *
     * @return non-empty-list<array{float, float}>
     */
    private static function smoothed(array $line): array
    {
        $n = count($line);
        $smooth = $line;
        for ($i = 1; $i < $n - 1; ++$i) {
            $a = $line[max(0, $i - 2)];
            $b = $line[$i - 1];
            $c = $line[$i + 1];
            $d = $line[min($n - 1, $i + 2)];
            $smooth[$i] = [
                ($a[0] + 2 * $b[0] + 2 * $line[$i][0] + 2 * $c[0] + $d[0]) / 8,
                ($a[1] + 2 * $b[1] + 2 * $line[$i][1] + 2 * $c[1] + $d[1]) / 8,
            ];
        }

        return $smooth;
    }
}
