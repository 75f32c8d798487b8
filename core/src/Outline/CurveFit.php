<?php

declare(strict_types=1);

namespace Cossel\Core\Outline;

use Cossel\Core\Recipe\PathPoint;

/**
 * Few Bézier pieces through many points in a row.
 * Source: P. Schneider, "An Algorithm for Automatically Fitting Digitized Curves", Graphics Gems, 1990.
 */
final class CurveFit
{
    /** Rounds of reparametrisation before a piece is split. */
    private const ROUNDS = 4;

    /**
     * @param non-empty-list<array{float, float}> $line
     * @param float                               $tolerance furthest the curve may be from a point
     *
     * @return list<PathPoint> from the first point to the last
     */
    public static function open(array $line, float $tolerance): array
    {
        $line = self::apart($line);
        $n = count($line);
        if ($n < 3) {
            return array_map(static fn(array $p): PathPoint => new PathPoint(...$p), $line);
        }
        $pieces = self::pieces($line, 0, $n - 1, self::tangent($line, 0, 1), self::tangent($line, $n - 1, -1), $tolerance);
        $points = [];
        foreach ($pieces as $i => [$a, $b, , $d]) {
            $in = $i === 0 ? [0.0, 0.0] : [$pieces[$i - 1][2][0] - $a[0], $pieces[$i - 1][2][1] - $a[1]];
            $points[] = new PathPoint($a[0], $a[1], $in[0], $in[1], $b[0] - $a[0], $b[1] - $a[1]);
            if ($i === count($pieces) - 1) {
                $points[] = new PathPoint($d[0], $d[1], $pieces[$i][2][0] - $d[0], $pieces[$i][2][1] - $d[1]);
            }
        }

        return $points;
    }

    /**
     * @param list<array{float, float}> $line
     *
     * @return list<array{float, float}> without points on top of each other
     */
    private static function apart(array $line): array
    {
        $apart = [];
        foreach ($line as $p) {
            $last = $apart[count($apart) - 1] ?? null;
            if ($last === null || hypot($p[0] - $last[0], $p[1] - $last[1]) > 1e-9) {
                $apart[] = $p;
            }
        }

        return $apart;
    }

    /**
     * @param list<array{float, float}> $line
     * @param array{float, float}       $start direction at the first point
     * @param array{float, float}       $end   and back from the last
     *
     * @return list<array{array{float, float}, array{float, float}, array{float, float}, array{float, float}}>
     */
    private static function pieces(array $line, int $first, int $last, array $start, array $end, float $tolerance): array
    {
        $a = $line[$first];
        $d = $line[$last];
        if ($last - $first === 1) {
            $third = hypot($d[0] - $a[0], $d[1] - $a[1]) / 3;

            return [
                [$a, [$a[0] + $start[0] * $third, $a[1] + $start[1] * $third], [$d[0] + $end[0] * $third, $d[1] + $end[1] * $third], $d],
            ];
        }
        $ts = self::chordal($line, $first, $last);
        $worst = $first + 1;
        for ($round = 0; $round < self::ROUNDS; ++$round) {
            $piece = self::fitted($line, $first, $last, $ts, $start, $end);
            [$off, $worst] = self::worst($line, $first, $piece, $ts);
            if ($off <= $tolerance) {
                return [$piece];
            }
            if ($off > 4 * $tolerance) {
                break;
            }
            $ts = self::reparametrised($line, $first, $piece, $ts);
        }
        $across = self::between($line, $worst);

        return [
            ...self::pieces($line, $first, $worst, $start, [-$across[0], -$across[1]], $tolerance),
            ...self::pieces($line, $worst, $last, $across, $end, $tolerance),
        ];
    }

    /**
     * @param list<array{float, float}> $line
     *
     * @return list<float> 0 to 1 by length
     */
    private static function chordal(array $line, int $first, int $last): array
    {
        $ts = [0.0];
        for ($i = $first + 1; $i <= $last; ++$i) {
            $ts[] = $ts[count($ts) - 1] + hypot($line[$i][0] - $line[$i - 1][0], $line[$i][1] - $line[$i - 1][1]);
        }
        $all = $ts[count($ts) - 1];

        return array_map(static fn(float $t): float => $t / $all, $ts);
    }

    /**
     * @param list<array{float, float}> $line
     * @param list<float>               $ts
     * @param array{float, float}       $start
     * @param array{float, float}       $end
     *
     * @return array{array{float, float}, array{float, float}, array{float, float}, array{float, float}}
     */
    private static function fitted(array $line, int $first, int $last, array $ts, array $start, array $end): array
    {
        $a = $line[$first];
        $d = $line[$last];
        $c00 = $c01 = $c11 = $x0 = $x1 = 0.0;
        foreach ($ts as $i => $t) {
            $s = 1 - $t;
            $b1 = 3 * $t * $s * $s;
            $b2 = 3 * $t * $t * $s;
            $b0 = $s * $s * $s + $b1;
            $b3 = $t * $t * $t + $b2;
            [$px, $py] = $line[$first + $i];
            $rx = $px - $a[0] * $b0 - $d[0] * $b3;
            $ry = $py - $a[1] * $b0 - $d[1] * $b3;
            $c00 += $b1 * $b1;
            $c01 += $b1 * $b2 * ($start[0] * $end[0] + $start[1] * $end[1]);
            $c11 += $b2 * $b2;
            $x0 += $b1 * ($start[0] * $rx + $start[1] * $ry);
            $x1 += $b2 * ($end[0] * $rx + $end[1] * $ry);
        }
        $det = $c00 * $c11 - $c01 * $c01;
        $length = hypot($d[0] - $a[0], $d[1] - $a[1]);
        $alpha = $det > 1e-12 ? ($x0 * $c11 - $x1 * $c01) / $det : 0.0;
        $beta = $det > 1e-12 ? ($c00 * $x1 - $c01 * $x0) / $det : 0.0;
        if ($alpha < 1e-3 * $length || $beta < 1e-3 * $length || $alpha > 3 * $length || $beta > 3 * $length) {
            $alpha = $beta = $length / 3;
        }

        return [$a, [$a[0] + $alpha * $start[0], $a[1] + $alpha * $start[1]], [$d[0] + $beta * $end[0], $d[1] + $beta * $end[1]], $d];
    }

    /**
     * @param list<array{float, float}>                                                                    $line
     * @param array{array{float, float}, array{float, float}, array{float, float}, array{float, float}} $piece
     * @param list<float>                                                                                  $ts
     *
     * @return array{float, int} distance, and the point that is so far off
     */
    private static function worst(array $line, int $first, array $piece, array $ts): array
    {
        $most = 0.0;
        $worst = $first + intdiv(count($ts), 2);
        foreach ($ts as $i => $t) {
            [$x, $y] = self::at($piece, $t);
            $off = hypot($x - $line[$first + $i][0], $y - $line[$first + $i][1]);
            if ($off > $most && $i > 0 && $i < count($ts) - 1) {
                $most = $off;
                $worst = $first + $i;
            }
        }

        return [$most, $worst];
    }

    /**
     * One Newton step of each parameter towards the nearest place on the piece.
     *
     * @param list<array{float, float}>                                                                    $line
     * @param array{array{float, float}, array{float, float}, array{float, float}, array{float, float}} $piece
     * @param list<float>                                                                                  $ts
     *
     * @return list<float>
     */
    private static function reparametrised(array $line, int $first, array $piece, array $ts): array
    {
        foreach ($ts as $i => $t) {
            $h = 1e-3;
            [$x, $y] = self::at($piece, $t);
            [$xa, $ya] = self::at($piece, $t - $h);
            [$xb, $yb] = self::at($piece, $t + $h);
            $dx = ($xb - $xa) / (2 * $h);
            $dy = ($yb - $ya) / (2 * $h);
            $ddx = ($xb - 2 * $x + $xa) / ($h * $h);
            $ddy = ($yb - 2 * $y + $ya) / ($h * $h);
            $x -= $line[$first + $i][0];
            $y -= $line[$first + $i][1];
            $slope = $dx * $dx + $dy * $dy + $x * $ddx + $y * $ddy;
            $ts[$i] = $slope > 1e-9 ? max(0.0, min(1.0, $t - ($x * $dx + $y * $dy) / $slope)) : $t;
        }

        return $ts;
    }

    /**
     * @param array{array{float, float}, array{float, float}, array{float, float}, array{float, float}} $p
     *
     * @return array{float, float}
     */
    private static function at(array $p, float $t): array
    {
        $s = 1 - $t;
        $w = [$s * $s * $s, 3 * $s * $s * $t, 3 * $s * $t * $t, $t * $t * $t];

        return [
            $w[0] * $p[0][0] + $w[1] * $p[1][0] + $w[2] * $p[2][0] + $w[3] * $p[3][0],
            $w[0] * $p[0][1] + $w[1] * $p[1][1] + $w[2] * $p[2][1] + $w[3] * $p[3][1],
        ];
    }

    /**
     * Direction at an end, over a few points so that single steps of a pixel do not rule it.
     *
     * @param list<array{float, float}> $line
     *
     * @return array{float, float}
     */
    private static function tangent(array $line, int $from, int $towards): array
    {
        $to = max(0, min(count($line) - 1, $from + 4 * $towards));

        return self::unit($line[$to][0] - $line[$from][0], $line[$to][1] - $line[$from][1]);
    }

    /**
     * @param list<array{float, float}> $line
     *
     * @return array{float, float}
     */
    private static function between(array $line, int $at): array
    {
        $a = $line[max(0, $at - 3)];
        $b = $line[min(count($line) - 1, $at + 3)];

        return self::unit($b[0] - $a[0], $b[1] - $a[1]);
    }

    /** @return array{float, float} */
    private static function unit(float $x, float $y): array
    {
        $length = max(1e-12, hypot($x, $y));

        return [$x / $length, $y / $length];
    }
}
