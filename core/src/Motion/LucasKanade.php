<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Picture\Grey;

/**
 * Finds small patches again in another frame, to a fraction of a pixel. Inverse compositional: the gradients are taken
 * once, on the patch. Differences in gain and bias of the light fall out: patches are compared after taking off their
 * mean and dividing by their spread, and the gradients are centred the same way.
 *
 * Source: S. Baker and I. Matthews, "Lucas-Kanade 20 Years On", IJCV 56(3), 2004, section 3.2. Kernel class.
 *
 * @phpstan-import-type Patch from FollowedPoint
 */
final class LucasKanade
{
    /**
     * Cuts a square patch around a point and prepares it.
     *
     * @param float $x    position in this level's pixels
     * @param int   $half the patch has (2 half + 1)^2 samples, one pixel apart
     *
     * @return array{t: list<float>, gx: list<float>, gy: list<float>, xx: float, xy: float, yy: float, norm: float}|null
     *                null when it leaves the picture or has no texture to hold on to
     */
    public static function patch(Grey $grey, float $x, float $y, int $half): ?array
    {
        $w = $grey->rect->width;
        $px = $x - 0.5 - $grey->rect->x - $half - 1;
        $py = $y - 0.5 - $grey->rect->y - $half - 1;
        $ix = (int) floor($px);
        $iy = (int) floor($py);
        $size = 2 * $half + 3;
        if ($ix < 0 || $iy < 0 || $ix + $size >= $w || $iy + $size >= $grey->rect->height) {
            return null;
        }
        $fx = $px - $ix;
        $fy = $py - $iy;

        return self::prepared(self::sampled($grey->v, $iy * $w + $ix, $w, $size, $fx, $fy), $size);
    }

    /**
     * @param list<float> $v
     *
     * @return list<float>
     */
    private static function sampled(array $v, int $first, int $w, int $size, float $fx, float $fy): array
    {
        $a = (1 - $fx) * (1 - $fy);
        $b = $fx * (1 - $fy);
        $c = (1 - $fx) * $fy;
        $d = $fx * $fy;
        $s = [];
        for ($row = 0; $row < $size; ++$row) {
            for ($i = $first + $row * $w, $end = $i + $size; $i < $end; ++$i) {
                $s[] = $a * $v[$i] + $b * $v[$i + 1] + $c * $v[$i + $w] + $d * $v[$i + $w + 1];
            }
        }

        return $s;
    }

    /**
     * @param list<float> $s (size)^2 samples, one more on each side than the patch
     *
     * @return array{t: list<float>, gx: list<float>, gy: list<float>, xx: float, xy: float, yy: float, norm: float}|null
     */
    private static function prepared(array $s, int $size): ?array
    {
        $t = $gx = $gy = [];
        $mean = $mx = $my = 0.0;
        for ($row = 1; $row < $size - 1; ++$row) {
            for ($i = $row * $size + 1, $end = $row * $size + $size - 1; $i < $end; ++$i) {
                $t[] = $v = $s[$i];
                $gx[] = $u = 0.5 * ($s[$i + 1] - $s[$i - 1]);
                $gy[] = $q = 0.5 * ($s[$i + $size] - $s[$i - $size]);
                $mean += $v;
                $mx += $u;
                $my += $q;
            }
        }
        $n = ($size - 2) ** 2;
        $mean /= $n;
        $mx /= $n;
        $my /= $n;
        $xx = $xy = $yy = $sum = 0.0;
        for ($i = 0; $i < $n; ++$i) {
            $t[$i] -= $mean;
            $gx[$i] -= $mx;
            $gy[$i] -= $my;
            $sum += $t[$i] * $t[$i];
            $xx += $gx[$i] * $gx[$i];
            $xy += $gx[$i] * $gy[$i];
            $yy += $gy[$i] * $gy[$i];
        }
        $det = $xx * $yy - $xy * $xy;
        if ($det <= 1e-14 || $sum <= 1e-9) {
            return null;
        }

        return ['t' => $t, 'gx' => $gx, 'gy' => $gy, 'xx' => $yy / $det, 'xy' => -$xy / $det, 'yy' => $xx / $det, 'norm' => sqrt($sum)];
    }

    /**
     * Moves a position until the picture there looks like the patch.
     *
     * @param Patch                             $patch  as {@see patch} gives it
     * @param float                             $x      first guess, this level's pixels
     * @param array{float, float, float, float} $linear how the patch is turned and scaled there
     *
     * @return array{float, float, float}|null position and likeness (normalised cross-correlation, -1..1), null when it runs
     *                                         out of the picture
     */
    public static function find(array $patch, int $half, Grey $grey, float $x, float $y, array $linear, int $rounds): ?array
    {
        return self::search(
            $patch['t'],
            $patch['gx'],
            $patch['gy'],
            $patch['xx'],
            $patch['xy'],
            $patch['yy'],
            $patch['norm'],
            $half,
            $grey->v,
            $grey->rect->width,
            $grey->rect->height,
            $x - 0.5 - $grey->rect->x,
            $y - 0.5 - $grey->rect->y,
            $grey->rect->x + 0.5,
            $grey->rect->y + 0.5,
            $linear[0],
            $linear[1],
            $linear[2],
            $linear[3],
            $rounds,
        );
    }

    /**
     * @param list<float> $t
     * @param list<float> $gx
     * @param list<float> $gy
     * @param list<float> $v
     *
     * @return array{float, float, float}|null
     */
    private static function search(
        array $t,
        array $gx,
        array $gy,
        float $hxx,
        float $hxy,
        float $hyy,
        float $norm,
        int $half,
        array $v,
        int $w,
        int $h,
        float $x,
        float $y,
        float $ox,
        float $oy,
        float $a,
        float $b,
        float $c,
        float $d,
        int $rounds,
    ): ?array {
        $size = 2 * $half + 1;
        $n = $size * $size;
        $s = $t;
        $reachX = $half * (abs($a) + abs($b));
        $reachY = $half * (abs($c) + abs($d));
        $alike = -1.0;
        for ($round = 0; $round < $rounds; ++$round) {
            if ($x < $reachX || $y < $reachY || $x + $reachX >= $w - 1.001 || $y + $reachY >= $h - 1.001) {
                return null;
            }
            $sum = $squares = 0.0;
            $k = 0;
            for ($j = -$half; $j <= $half; ++$j) {
                $px = $x + $b * $j - $a * $half;
                $py = $y + $d * $j - $c * $half;
                for ($i = 0; $i < $size; ++$i) {
                    $ix = (int) $px;
                    $iy = (int) $py;
                    $fx = $px - $ix;
                    $fy = $py - $iy;
                    $at = $iy * $w + $ix;
                    $top = $v[$at];
                    $top += ($v[$at + 1] - $top) * $fx;
                    $at += $w;
                    $low = $v[$at];
                    $low += ($v[$at + 1] - $low) * $fx;
                    $top += ($low - $top) * $fy;
                    $s[$k] = $top;
                    ++$k;
                    $sum += $top;
                    $squares += $top * $top;
                    $px += $a;
                    $py += $c;
                }
            }
            $mean = $sum / $n;
            $spread = $squares - $sum * $mean;
            if ($spread < 1e-9) {
                return null;
            }
            $gain = $norm / sqrt($spread);
            $ex = $ey = $product = 0.0;
            for ($k = 0; $k < $n; ++$k) {
                $u = ($s[$k] - $mean) * $gain;
                $q = $t[$k];
                $product += $u * $q;
                $u -= $q;
                $ex += $gx[$k] * $u;
                $ey += $gy[$k] * $u;
            }
            $alike = $product / ($norm * $norm);
            $dx = $hxx * $ex + $hxy * $ey;
            $dy = $hxy * $ex + $hyy * $ey;
            $length = $dx * $dx + $dy * $dy;
            if ($length > 4.0) {
                $length = 2.0 / sqrt($length);
                $dx *= $length;
                $dy *= $length;
            }
            $x -= $a * $dx + $b * $dy;
            $y -= $c * $dx + $d * $dy;
            if ($length < 0.0004) {
                break;
            }
        }

        return [$x + $ox, $y + $oy, $alike];
    }
}
