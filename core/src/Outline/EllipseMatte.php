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
final readonly class EllipseMatte implements ShapeMatte
{
    /** Nanoseconds a pixel; measured. */
    private const PRICE = 220.0;

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

        // The sum comes first, so the first axis is the long one.
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
    public function price(): float
    {
        return self::PRICE;
    }

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
     * One row of the matte. The point of the ellipse nearest to (x, y), both made positive and a the long half axis, is
     * (r x / (w + r - 1), y / w) with r = (a / b)² and w the one root of (r x/a / (w + r - 1))² + (y/b / w)² = 1 above y/b
     * (D. Eberly, "Distance from a Point to an Ellipse", 2013). That falls and is convex in w, so Newton's method climbs to
     * the root from any place under it, and from one above it falls under it once. The neighbouring pixel's root is where it begins;
     * after pixels that were skipped it begins afresh.
     *
     * @param list<float> $out
     * @param float       $u   first pixel along the first axis
     * @param float       $v   and along the second
     * @param float       $du  change of u from pixel to pixel
     * @param float       $dv  and of v
     * @param float       $a   half axes, the first at least as long
     */
    private static function row(
        array &$out,
        int $i,
        int $n,
        float $u,
        float $v,
        float $du,
        float $dv,
        float $a,
        float $b,
        float $grow,
        float $in,
        float $outer,
        float $opacity,
    ): void {
        $r = ($a / $b) ** 2;
        $more = $r - 1.0;
        // Points whose like ellipse is smaller than the one or larger than the other are surely all inside or outside.
        $solid = $in - $grow;
        $solid = $solid >= $b ? -1.0 : ($solid < 0.0 ? 1.0 : (1.0 - $solid / $b) ** 2);
        $empty = $outer + $grow;
        $empty = $empty < 0.0 ? INF : (1.0 + $empty / $b) ** 2;
        $width = 1.0 / ($in + $outer);
        $close = 0.0004 * ($in + $outer);
        $start = $in - $grow;
        // Divisions are calls, even of compiled code.
        $byA = 1.0 / $a;
        $byB = 1.0 / $b;
        $w = 0.0;
        for ($end = $i + $n; $i < $end; ++$i, $u += $du, $v += $dv) {
            $x = ($u < 0.0 ? -$u : $u) * $byA;
            $y = ($v < 0.0 ? -$v : $v) * $byB;
            $size = $x * $x + $y * $y;
            if ($size >= $empty) {
                $w = 0.0;
                continue;
            }
            if ($size <= $solid) {
                $out[$i] = $opacity;
                $w = 0.0;
                continue;
            }
            // On the long axis itself the equation would say nothing of the side.
            if ($y < 1e-9) {
                $y = 1e-9;
            }
            $p = $r * $x;
            $least = $p - $more > $y ? $p - $more : $y;
            if ($w < $least) {
                $w = $least;
            }
            for ($round = 0; $round < 100; ++$round) {
                $byX = 1.0 / ($w + $more);
                $byY = 1.0 / $w;
                $f = $p * $byX;
                $g = $y * $byY;
                $step = ($f * $f + $g * $g - 1.0) / (2.0 * ($f * $f * $byX + $g * $g * $byY));
                $w += $step;
                if ($w < $least) {
                    $w = $least;
                }
                // What the step moves the point by, in pixels: the next would move it by a fraction of that.
                $moved = $step * ($b * $g * $byY + $a * $f * $byX);
                if ($moved < $close && -$moved < $close) {
                    break;
                }
            }
            $f = ($p / ($w + $more) - $x) * $a;
            $g = ($y / $w - $y) * $b;
            $d = sqrt($f * $f + $g * $g);
            $t = ($start + ($size < 1.0 ? -$d : $d)) * $width;
            if ($t <= 0.0) {
                $out[$i] = $opacity;
            } elseif ($t < 1.0) {
                $out[$i] = $opacity * (1.0 - $t * $t * (3.0 - 2.0 * $t));
            }
        }
    }
}
