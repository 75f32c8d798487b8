<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Geometry\Linear;
use Cossel\Core\Picture\Grey;

/**
 * The round edges of an iris: the one to the white of the eye, looked for to the left and right where lids do not
 * reach, and the pupil's. Two circles with one centre are fitted to both, robustly, to a fraction of a pixel. Circles
 * are centre, radius, radius of the pupil, in pixels. Kernel class.
 */
final class RoundEdges
{
    /** Half the angle to the left and right in which the edge to the white is looked for, degrees. */
    private const SIDE = 38;
    private const RAYS = 48;
    /** The pupil's edge lies between these shares of the iris' radius. */
    private const PUPIL = [0.22, 0.62];

    /**
     * The best fit of several sizes about a place.
     *
     * @return array{array{float, float, float, float}, float, float}|null as {@see fitted} gives it
     */
    public static function about(Grey $luma, float $x, float $y, float $radius, float $reach, float $contrast): ?array
    {
        $best = null;
        foreach ([0.88, 0.94, 1.0, 1.06] as $size) {
            foreach ([0.34, 0.42, 0.5] as $pupil) {
                $guess = [$x, $y, $size * $radius, $pupil * $size * $radius];
                $best = self::better($best, self::near($luma, null, $guess, $reach, 0.12 * $radius, $contrast));
            }
        }

        return $best;
    }

    /**
     * The best fit about a place that is known less well: likely places are looked for once, with a pupil of middling size.
     *
     * @return array{array{float, float, float, float}, float, float}|null as {@see fitted} gives it
     */
    public static function seen(Grey $luma, float $x, float $y, float $radius, float $reach, float $contrast): ?array
    {
        $best = null;
        foreach (self::searched($luma, null, [$x, $y, $radius, 0.42 * $radius], $reach, $contrast) as [$px, $py]) {
            foreach ([0.34, 0.42, 0.5] as $pupil) {
                $best = self::better($best, self::fitted($luma, [$px, $py, $radius, $pupil * $radius], 0.14 * $radius, $contrast));
            }
        }

        return $best;
    }

    /**
     * The best fit from the likeliest places.
     *
     * @param array{float, float, float, float} $guess
     * @param float                             $reach of the search for places
     * @param float                             $near  and of edges from them
     *
     * @return array{array{float, float, float, float}, float, float}|null as {@see fitted} gives it
     */
    public static function near(Grey $luma, ?Grey $map, array $guess, float $reach, float $near, float $contrast): ?array
    {
        $best = null;
        foreach (self::searched($luma, $map, $guess, $reach, $contrast) as $place) {
            $best = self::better($best, self::fitted($luma, $place, $near, $contrast));
        }

        return $best;
    }

    /**
     * @param array{array{float, float, float, float}, float, float}|null $a
     * @param array{array{float, float, float, float}, float, float}|null $b
     *
     * @return array{array{float, float, float, float}, float, float}|null the one on which more rays agree
     */
    public static function better(?array $a, ?array $b): ?array
    {
        return $a === null || ($b !== null && $b[1] + $b[2] > $a[1] + $a[2]) ? $b : $a;
    }

    /**
     * The places where an iris is likeliest, best first: a step to the white, a step out of the pupil, and pixels that
     * look like iris.
     *
     * @param Grey|null                         $map   1 where a pixel looks like iris
     * @param array{float, float, float, float} $guess
     *
     * @return non-empty-list<array{float, float, float, float}>
     */
    private static function searched(Grey $luma, ?Grey $map, array $guess, float $reach, float $contrast): array
    {
        $step = max(2.0, $reach / 9);
        $scores = $places = [];
        for ($dy = -$reach; $dy <= $reach; $dy += $step) {
            for ($dx = -$reach; $dx <= $reach; $dx += $step) {
                $place = [$guess[0] + $dx, $guess[1] + $dy, $guess[2], $guess[3]];
                $scores[] = min($contrast, self::ringStep($luma, $place[0], $place[1], $place[2])) / $contrast
                    + 0.6 * min($contrast, self::pupilStep($luma, $place[0], $place[1], $place[3])) / $contrast
                    + ($map === null ? 0.0 : 1.5 * IrisLook::covered($map, $place))
                    - 0.1 * ($dx * $dx + $dy * $dy) / ($reach * $reach);
                $places[] = $place;
            }
        }
        arsort($scores);
        $found = [];
        foreach (array_keys($scores) as $k) {
            foreach ($found as $other) {
                if (hypot($other[0] - $places[$k][0], $other[1] - $places[$k][1]) < 2.5 * $step) {
                    continue 2;
                }
            }
            $found[] = $places[$k];
            if (count($found) === 3) {
                break;
            }
        }

        return $found;
    }

    /** How much lighter it is just outside a circle than just inside, to the left and right. */
    public static function ringStep(Grey $luma, float $x, float $y, float $radius): float
    {
        return self::ring($luma, $x, $y, $radius)[0];
    }

    /** @return array{float, float} the same, of any plane, and how light it is outside */
    public static function ring(Grey $luma, float $x, float $y, float $radius): array
    {
        $outside = $inside = 0.0;
        $count = 0;
        for ($a = -self::SIDE; $a <= self::SIDE; $a += 7.6) {
            foreach ([0.0, 180.0] as $side) {
                $c = cos(deg2rad($a + $side));
                $s = sin(deg2rad($a + $side));
                $outside += $luma->between($x + 1.1 * $radius * $c, $y + 1.1 * $radius * $s);
                $inside += $luma->between($x + 0.9 * $radius * $c, $y + 0.9 * $radius * $s);
                ++$count;
            }
        }

        return [($outside - $inside) / $count, $outside / $count];
    }

    private static function pupilStep(Grey $luma, float $x, float $y, float $radius): float
    {
        $sum = 0.0;
        for ($a = 0; $a < 360; $a += 30) {
            $c = cos(deg2rad($a));
            $s = sin(deg2rad($a));
            $sum += $luma->between($x + 1.3 * $radius * $c, $y + 1.3 * $radius * $s)
                    - $luma->between($x + 0.7 * $radius * $c, $y + 0.7 * $radius * $s);
        }

        return $sum / 12;
    }

    /**
     * Both circles by the edges found along rays.
     *
     * @param array{float, float, float, float} $circle first guess
     * @param float                             $reach  to either side of the guess, pixels
     *
     * @return array{array{float, float, float, float}, float, float}|null circles, and the shares of rays to the white and out
     *                                                                of the pupil that agree
     */
    private static function fitted(Grey $luma, array $circle, float $reach, float $contrast): ?array
    {
        $shares = [0.0, 0.0];
        for ($round = 0; $round < 4; ++$round) {
            $edges = [];
            for ($k = 0; $k < self::RAYS; ++$k) {
                $angle = deg2rad(-self::SIDE + 2 * self::SIDE * ($k >> 1) / (self::RAYS / 2 - 1) + ($k & 1) * 180);
                $at = self::edge($luma, $circle, $angle, $circle[2] - $reach, $circle[2] + $reach, 0.25 * $contrast);
                if ($at !== null) {
                    $edges[] = [cos($angle), sin($angle), $at, 0];
                }
                $angle = 2 * M_PI * $k / self::RAYS;
                $at = self::edge(
                    $luma,
                    $circle,
                    $angle,
                    max(self::PUPIL[0] * $circle[2], $circle[3] - 0.8 * $reach),
                    min(self::PUPIL[1] * $circle[2], $circle[3] + 0.8 * $reach),
                    0.12 * $contrast,
                );
                if ($at !== null) {
                    $edges[] = [cos($angle), sin($angle), $at, 1];
                }
            }
            $next = self::solved($edges, $circle, max(1.5, ($round < 2 ? 0.09 : 0.045) * $circle[2]));
            if ($next === null) {
                return null;
            }
            [$circle, $shares] = $next;
            $reach = max(3.0, 0.6 * $reach);
        }

        return [$circle, ...$shares];
    }

    /**
     * Where along a ray it gets lighter outwards most steeply, nearer the middle of the reach rather than at its ends.
     *
     * @param array{float, float, float, float} $circle
     */
    private static function edge(Grey $luma, array $circle, float $angle, float $from, float $to, float $least): ?float
    {
        $c = cos($angle);
        $s = sin($angle);
        $n = (int) (($to - $from) / 0.75);
        $v = [];
        for ($k = -2; $k <= $n + 2; ++$k) {
            $r = $from + 0.75 * $k;
            $v[] = $luma->between($circle[0] + $r * $c, $circle[1] + $r * $s);
        }
        $most = 0.0;
        $at = -1;
        $slopes = [];
        for ($k = 0; $k <= $n; ++$k) {
            $slopes[$k] = $v[$k + 4] + $v[$k + 3] - $v[$k + 1] - $v[$k];
            $off = 2 * $k / max(1, $n) - 1;
            $weighed = $slopes[$k] * (1 - 0.5 * $off * $off);
            if ($weighed > $most) {
                $most = $weighed;
                $at = $k;
            }
        }
        if ($at <= 0 || $at >= $n || $most < 2 * $least) {
            return null;
        }
        $curve = $slopes[$at - 1] - 2 * $slopes[$at] + $slopes[$at + 1];
        $shift = $curve < 0 ? max(-0.5, min(0.5, 0.5 * ($slopes[$at - 1] - $slopes[$at + 1]) / $curve)) : 0.0;

        return $from + 0.75 * ($at + $shift);
    }

    /**
     * Gauss-Newton with Tukey's weights on the misses of edges along their rays; both radii hold a little to what they were.
     *
     * @param list<array{float, float, float, int}> $edges  direction, distance, which circle
     * @param array{float, float, float, float}     $circle
     *
     * @return array{array{float, float, float, float}, array{float, float}}|null circles and the shares that agree
     */
    private static function solved(array $edges, array $circle, float $tolerance): ?array
    {
        $dx = $dy = 0.0;
        $radii = [$circle[2], $circle[3]];
        $agree = [0, 0];
        for ($round = 0; $round < 6; ++$round) {
            $a = array_fill(0, 4, array_fill(0, 4, 0.0));
            $b = array_fill(0, 4, 0.0);
            $agree = [0, 0];
            foreach ($edges as [$c, $s, $at, $which]) {
                $miss = $at - ($radii[$which] + $c * $dx + $s * $dy);
                $e = $miss * $miss / ($tolerance * $tolerance);
                if ($e >= 1) {
                    continue;
                }
                ++$agree[$which];
                $w = (1 - $e) ** 2;
                $row = [$c, $s, $which === 0 ? 1.0 : 0.0, (float) $which];
                for ($i = 0; $i < 4; ++$i) {
                    $b[$i] += $w * $row[$i] * $miss;
                    for ($j = 0; $j < 4; ++$j) {
                        $a[$i][$j] += $w * $row[$i] * $row[$j];
                    }
                }
            }
            foreach ([2, 3] as $i) {
                $a[$i][$i] += 4.0;
                $b[$i] += 4.0 * ($circle[$i] - $radii[$i - 2]);
            }
            $a[0][0] += 0.5;
            $a[1][1] += 0.5;
            $step = Linear::solve($a, $b);
            if ($step === null) {
                return null;
            }
            $dx += $step[0];
            $dy += $step[1];
            $radii[0] += $step[2];
            $radii[1] += $step[3];
        }
        if (hypot($dx, $dy) > $circle[2] || $radii[0] < 3 || $radii[1] < 1) {
            return null;
        }

        return [[$circle[0] + $dx, $circle[1] + $dy, $radii[0], $radii[1]], [$agree[0] / self::RAYS, $agree[1] / self::RAYS]];
    }
}
