<?php

declare(strict_types=1);

namespace Cossel\Core\Outline;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Ellipse;

/**
 * An ellipse where it stands on one frame, in pixels of that frame; draws its own matte. Kernel class.
 *
 * The matte is a smooth function of the signed distance d to the (grown) edge, negative inside:
 * 1 - s(-featherIn, featherOut, d) with s the cubic smoothstep. A feather narrower than a pixel in all is widened to
 * one pixel about the edge, so that no edge is jagged. The distance is exact (see {@see row}).
 */
final readonly class PlacedEllipse implements Placed
{
    private function __construct(
        private float $x,
        private float $y,
        private float $a,
        private float $b,
        private float $cos,
        private float $sin,
        private float $grow,
        private float $featherIn,
        private float $featherOut,
        private float $opacity,
    ) {}

    /**
     * @param Ellipse $ellipse with its values on the frame, in picture heights
     * @param Matrix  $motion  from where it is stated to the frame, in picture heights
     * @param int     $height  of the picture in pixels
     */
    public static function on(Ellipse $ellipse, Matrix $motion, int $height): self
    {
        [$cx, $cy] = $ellipse->centre;
        $local = $motion->affineAt($cx, $cy);
        [$x, $y] = $local->apply($cx, $cy);
        $turn = deg2rad($ellipse->turn);
        [$a, $b, , $d, $e] = $local->m;
        // The image of the unit circle: its axes are the singular directions of this matrix.
        $p = ($a * cos($turn) + $b * sin($turn)) * $ellipse->radii[0];
        $q = (-$a * sin($turn) + $b * cos($turn)) * $ellipse->radii[1];
        $r = ($d * cos($turn) + $e * sin($turn)) * $ellipse->radii[0];
        $s = (-$d * sin($turn) + $e * cos($turn)) * $ellipse->radii[1];
        $half = hypot($p + $s, $r - $q) / 2;
        $rest = hypot($p - $s, $r + $q) / 2;
        $angle = (atan2($r + $q, $p - $s) + atan2($r - $q, $p + $s)) / 2;
        $scale = $local->scale() * $height;
        $in = $ellipse->featherIn * $scale;
        $out = $ellipse->featherOut * $scale;
        if ($in + $out < 1.0) {
            $more = (1.0 - $in - $out) / 2;
            $in += $more;
            $out += $more;
        }

        return new self(
            $x * $height,
            $y * $height,
            max(1e-3, ($half + $rest) * $height),
            max(1e-3, abs($half - $rest) * $height),
            cos($angle),
            sin($angle),
            $ellipse->grow * $scale,
            $in,
            $out,
            $ellipse->opacity,
        );
    }

    /** Where the matte is not 0. */
    public function bounds(): Rect
    {
        $more = $this->grow + $this->featherOut;
        $w = hypot($this->a * $this->cos, $this->b * $this->sin) + $more;
        $h = hypot($this->a * $this->sin, $this->b * $this->cos) + $more;

        return $w <= 0 || $h <= 0 ? Rect::none() : Rect::around($this->x - $w, $this->y - $h, $this->x + $w, $this->y + $h);
    }

    public function matte(Rect $rect): Grey
    {
        $out = array_fill(0, $rect->count(), 0.0);
        $inside = $rect->intersect($this->bounds());
        for ($y = $inside->y; $y < $inside->bottom(); ++$y) {
            $dx = $inside->x + 0.5 - $this->x;
            $dy = $y + 0.5 - $this->y;
            self::row(
                $out,
                ($y - $rect->y) * $rect->width + $inside->x - $rect->x,
                $inside->width,
                $dx * $this->cos + $dy * $this->sin,
                $dy * $this->cos - $dx * $this->sin,
                $this->cos,
                -$this->sin,
                $this->a,
                $this->b,
                $this->grow,
                $this->featherIn,
                $this->featherOut,
                $this->opacity,
            );
        }

        return new Grey($rect, $out);
    }

    /**
     * One row of the matte. The distance of a point to the ellipse is found by standing the osculating circle (its
     * centre lies on the evolute) in for the ellipse again and again; the neighbouring pixel's answer is the first
     * guess, so two rounds are enough nearly everywhere.
     *
     * @param list<float> $out
     * @param float       $u   first pixel along the long axis
     * @param float       $v   and along the short one
     * @param float       $du  change of u from pixel to pixel
     * @param float       $dv  and of v
     * @param float       $a   half axes
     */
    private static function row(array &$out, int $i, int $n, float $u, float $v, float $du, float $dv, float $a, float $b, float $grow, float $in, float $outer, float $opacity): void
    {
        $smaller = $a < $b ? $a : $b;
        $a2 = 1.0 / ($a * $a);
        $b2 = 1.0 / ($b * $b);
        $evoluteX = ($a * $a - $b * $b) / $a;
        $evoluteY = ($b * $b - $a * $a) / $b;
        // Points whose like ellipse is smaller than the one or larger than the other are surely all inside or outside.
        $solid = $in - $grow;
        $solid = $solid >= $smaller ? -1.0 : ($solid < 0.0 ? 1.0 : (1.0 - $solid / $smaller) ** 2);
        $empty = $outer + $grow;
        $empty = $empty < 0.0 ? INF : (1.0 + $empty / $smaller) ** 2;
        $width = 1.0 / ($in + $outer);
        $close = 1e-3 * ($in + $outer) / ($a > $b ? $a : $b);
        $start = $in - $grow;
        $tx = $ty = M_SQRT1_2;
        for ($end = $i + $n; $i < $end; ++$i, $u += $du, $v += $dv) {
            $size = $u * $u * $a2 + $v * $v * $b2;
            if ($size >= $empty) {
                continue;
            }
            if ($size <= $solid) {
                $out[$i] = $opacity;
                continue;
            }
            $x = $u < 0.0 ? -$u : $u;
            $y = $v < 0.0 ? -$v : $v;
            for ($round = 0; $round < 40; ++$round) {
                $ex = $evoluteX * $tx * $tx * $tx;
                $ey = $evoluteY * $ty * $ty * $ty;
                $rx = $a * $tx - $ex;
                $ry = $b * $ty - $ey;
                $qx = $x - $ex;
                $qy = $y - $ey;
                $q = $qx * $qx + $qy * $qy;
                if ($q <= 0.0) {
                    break;
                }
                $k = sqrt(($rx * $rx + $ry * $ry) / $q);
                $nx = ($qx * $k + $ex) / $a;
                $ny = ($qy * $k + $ey) / $b;
                if ($nx < 0.0) {
                    $nx = 0.0;
                }
                if ($ny < 0.0) {
                    $ny = 0.0;
                }
                $k = $nx * $nx + $ny * $ny;
                if ($k <= 0.0) {
                    break;
                }
                $k = 1.0 / sqrt($k);
                $nx *= $k;
                $ny *= $k;
                $moved = ($nx > $tx ? $nx - $tx : $tx - $nx) + ($ny > $ty ? $ny - $ty : $ty - $ny);
                $tx = $nx;
                $ty = $ny;
                if ($moved < $close) {
                    break;
                }
            }
            $rx = $a * $tx - $x;
            $ry = $b * $ty - $y;
            $d = sqrt($rx * $rx + $ry * $ry);
            $t = ($start + ($size < 1.0 ? -$d : $d)) * $width;
            if ($t <= 0.0) {
                $out[$i] = $opacity;
            } elseif ($t < 1.0) {
                $out[$i] = $opacity * (1.0 - $t * $t * (3.0 - 2.0 * $t));
            }
            // Not from the very ends: there the iteration could not get away again.
            if ($tx < 0.01) {
                $tx = 0.01;
            }
            if ($ty < 0.01) {
                $ty = 0.01;
            }
        }
    }
}
