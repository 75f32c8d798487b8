<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Geometry\Linear;
use Cossel\Core\Outline\Contour;
use Cossel\Core\Recipe\PathPoint;

/** A closed path as a run of samples on its edge, and back. Kernel class. */
final class EdgeSamples
{
    /** How far a point may go from between its neighbours, in how far they are apart; and rounds in which all come to rest. */
    private const STRETCH = 1.2;
    private const SETTLING = 3;
    private const SPREAD = 6;

    /** Samples on each Bézier piece. */
    private const PER_PIECE = 5;

    /**
     * Samples along a closed path, from inside each piece's first point on.
     *
     * @param list<PathPoint> $points
     *
     * @return array{list<float>, list<float>}
     */
    public static function samples(array $points): array
    {
        $xs = $ys = [];
        foreach ($points as $i => $p) {
            for ($k = 0; $k < self::PER_PIECE; ++$k) {
                [$xs[], $ys[]] = Contour::on($p, $points[($i + 1) % count($points)], $k / self::PER_PIECE);
            }
        }

        return [$xs, $ys];
    }

    /**
     * Outward normals of a closed run of samples.
     *
     * @param list<float> $xs
     * @param list<float> $ys
     *
     * @return array{list<float>, list<float>}
     */
    public static function normals(array $xs, array $ys): array
    {
        $n = count($xs);
        $area = 0.0;
        $nx = $ny = [];
        for ($k = 0; $k < $n; ++$k) {
            $before = $k === 0 ? $n - 1 : $k - 1;
            $after = $k + 1 === $n ? 0 : $k + 1;
            $area += $xs[$k] * $ys[$after] - $xs[$after] * $ys[$k];
            $tx = $xs[$after] - $xs[$before];
            $ty = $ys[$after] - $ys[$before];
            $length = max(1e-9, sqrt($tx * $tx + $ty * $ty));
            $nx[] = $ty / $length;
            $ny[] = -$tx / $length;
        }
        if ($area < 0) {
            foreach ($nx as $k => $v) {
                $nx[$k] = -$v;
                $ny[$k] = -$ny[$k];
            }
        }

        return [$nx, $ny];
    }

    /**
     * The shifts of all samples: as measured across the edge, and like their neighbours'. Gauss-Seidel on the normal
     * equations of the sum of w (m - n.d)^2 + stiffness |d - d'|^2.
     *
     * @param list<float> $shift
     * @param list<float> $weight
     * @param list<float> $nx
     * @param list<float> $ny
     *
     * @return array{list<float>, list<float>}
     */
    public static function held(array $shift, array $weight, array $nx, array $ny, float $stiffness): array
    {
        $n = count($shift);
        $mx = $my = array_fill(0, $n, 0.0);
        for ($round = 0; $round < 60; ++$round) {
            for ($k = 0; $k < $n; ++$k) {
                $before = $k === 0 ? $n - 1 : $k - 1;
                $after = $k + 1 === $n ? 0 : $k + 1;
                $w = $weight[$k];
                $a = $nx[$k];
                $b = $ny[$k];
                $px = $stiffness * ($mx[$before] + $mx[$after]) + $w * $a * $shift[$k];
                $py = $stiffness * ($my[$before] + $my[$after]) + $w * $b * $shift[$k];
                $xx = 2 * $stiffness + $w * $a * $a;
                $xy = $w * $a * $b;
                $yy = 2 * $stiffness + $w * $b * $b;
                $det = $xx * $yy - $xy * $xy;
                $mx[$k] = ($px * $yy - $py * $xy) / $det;
                $my[$k] = ($py * $xx - $px * $xy) / $det;
            }
        }

        return [$mx, $my];
    }

    /**
     * The path through moved samples: its points where theirs are, its handles by least squares over each piece.
     *
     * @param list<PathPoint> $points the path before
     * @param list<float>     $xs
     * @param list<float>     $ys
     *
     * @return list<PathPoint>
     */
    public static function path(array $points, array $xs, array $ys): array
    {
        $n = count($points);
        $out = $in = [];
        for ($i = 0; $i < $n; ++$i) {
            $first = $i * self::PER_PIECE;
            $last = ($first + self::PER_PIECE) % count($xs);
            $next = ($i + 1) % $n;
            $straight = $points[$i]->outX === 0.0
                && $points[$i]->outY === 0.0
                && $points[$next]->inX === 0.0
                && $points[$next]->inY === 0.0;
            if ($straight) {
                $out[$i] = $in[$next] = [0.0, 0.0];
                continue;
            }
            $a = [[0.0, 0.0], [0.0, 0.0]];
            $b = [[0.0, 0.0], [0.0, 0.0]];
            for ($k = 1; $k < self::PER_PIECE; ++$k) {
                $t = $k / self::PER_PIECE;
                $s = 1 - $t;
                $rows = [3 * $s * $s * $t, 3 * $s * $t * $t];
                $ends = [$s * $s * $s + $rows[0], $t * $t * $t + $rows[1]];
                $miss = [
                    $xs[$first + $k] - $ends[0] * $xs[$first] - $ends[1] * $xs[$last],
                    $ys[$first + $k] - $ends[0] * $ys[$first] - $ends[1] * $ys[$last],
                ];
                foreach ([0, 1] as $r) {
                    foreach ([0, 1] as $c) {
                        $a[$r][$c] += $rows[$r] * $rows[$c];
                        $b[$c][$r] += $rows[$r] * $miss[$c];
                    }
                }
            }
            $x = Linear::solve($a, $b[0]) ?? [0.0, 0.0];
            $y = Linear::solve($a, $b[1]) ?? [0.0, 0.0];
            $out[$i] = [$x[0], $y[0]];
            $in[$next] = [$x[1], $y[1]];
        }
        $moved = [];
        for ($i = 0; $i < $n; ++$i) {
            $moved[] = new PathPoint($xs[$i * self::PER_PIECE], $ys[$i * self::PER_PIECE], ...$in[$i], ...$out[$i]);
        }

        return $moved;
    }

    /**
     * A path without points that have run off alone: soft things stretch, but what goes further from its neighbours than they are apart
     * has slid along something else, and stays between them.
     *
     * @param list<PathPoint> $points
     * @param list<PathPoint> $home   where they are carried
     *
     * @return list<PathPoint>
     */
    public static function limber(array $points, array $home): array
    {
        $n = count($points);
        for ($round = 0; $round < self::SETTLING && $n > 3; ++$round) {
            foreach ($points as $i => $p) {
                [$a, $b] = [($i + $n - 1) % $n, ($i + 1) % $n];
                $to = static fn(PathPoint $q): float => hypot($q->x - $home[$i]->x, $q->y - $home[$i]->y);
                $apart = ($to($home[$a]) + $to($home[$b])) / 2;
                $between = $home[$i]->by(
                    ($points[$a]->x - $home[$a]->x + $points[$b]->x - $home[$b]->x) / 2,
                    ($points[$a]->y - $home[$a]->y + $points[$b]->y - $home[$b]->y) / 2,
                );
                if (hypot($p->x - $between->x, $p->y - $between->y) > self::STRETCH * $apart) {
                    $points[$i] = $between;
                }
            }
        }

        return $points;
    }

    /**
     * A path that goes beside another as a whole and in its large parts, but is as smooth as that: how far its points are from there is
     * spread over their neighbours, over a sixth of the path to each side, and the handles are the other's.
     *
     * @param list<PathPoint> $points
     * @param list<PathPoint> $home
     *
     * @return list<PathPoint>
     */
    public static function smooth(array $points, array $home): array
    {
        $n = count($points);
        $reach = intdiv($n, self::SPREAD);
        $smooth = [];
        foreach ($home as $i => $h) {
            $dx = $dy = 0.0;
            for ($k = -$reach; $k <= $reach; ++$k) {
                $j = ($i + $k + $n) % $n;
                $weight = ($reach + 1 - abs($k)) / ($reach + 1) ** 2;
                $dx += $weight * ($points[$j]->x - $home[$j]->x);
                $dy += $weight * ($points[$j]->y - $home[$j]->y);
            }
            $smooth[] = $h->by($dx, $dy);
        }

        return $smooth;
    }
}
