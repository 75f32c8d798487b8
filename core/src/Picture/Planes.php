<?php

declare(strict_types=1);

namespace Cossel\Core\Picture;

use Cossel\Core\Geometry\Matrix;

/**
 * Three planes of display-referred R'G'B' over a rectangle of the picture: 0 black, 1 reference white, unclipped.
 * The working buffer of the renderer, changed in place by the kernels; row by row, packed.
 */
final class Planes
{
    /**
     * @param list<float> $r
     * @param list<float> $g
     * @param list<float> $b
     */
    public function __construct(
        public readonly Rect $rect,
        public array $r,
        public array $g,
        public array $b,
    ) {}

    public static function filled(Rect $rect, float $r, float $g, float $b): self
    {
        $n = $rect->count();

        return new self($rect, array_fill(0, $n, $r), array_fill(0, $n, $g), array_fill(0, $n, $b));
    }

    /**
     * Bands put together again.
     *
     * @param iterable<self> $bands from top to bottom, together the rectangle
     */
    public static function joined(Rect $rect, iterable $bands): self
    {
        $r = $g = $b = [];
        foreach ($bands as $planes) {
            $r[] = $planes->r;
            $g[] = $planes->g;
            $b[] = $planes->b;
        }

        return new self($rect, array_merge(...$r), array_merge(...$g), array_merge(...$b));
    }

    /** @return array{float, float, float} the R'G'B' of the pixel at these picture coordinates */
    public function at(int $x, int $y): array
    {
        $i = ($y - $this->rect->y) * $this->rect->width + $x - $this->rect->x;

        return [$this->r[$i], $this->g[$i], $this->b[$i]];
    }

    /**
     * Seen through a map, bilinear between the middles of pixels; from the outermost middles on the edge goes on.
     *
     * @param Matrix $map    from pixels of what comes out to pixels of these planes
     * @param Rect   $rect   of what comes out
     * @param Rect   $whole  inside this there is something to be seen; the planes reach over it as far as the map needs
     * @param float  $beyond what all channels are elsewhere
     */
    public function through(Matrix $map, Rect $rect, Rect $whole, float $beyond): self
    {
        $out = self::filled($rect, $beyond, $beyond, $beyond);
        self::read($this->r, $this->g, $this->b, $this->rect, $map->m, $rect, $whole, $out->r, $out->g, $out->b);

        return $out;
    }

    /**
     * @param list<float>       $r
     * @param list<float>       $g
     * @param list<float>       $b
     * @param array<int, float> $m
     * @param list<float>       $outR
     * @param list<float>       $outG
     * @param list<float>       $outB
     */
    private static function read(
        array $r,
        array $g,
        array $b,
        Rect $from,
        array $m,
        Rect $rect,
        Rect $whole,
        array &$outR,
        array &$outG,
        array &$outB,
    ): void {
        [$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8] = $m;
        [$left, $top, $right, $bottom] = [$whole->x, $whole->y, $whole->right(), $whole->bottom()];
        $w = $from->width;
        $lastX = $w - 1.0;
        $lastY = $from->height - 1.0;
        $next = $w > 1 ? 1 : 0;
        $below = $from->height > 1 ? $w : 0;
        $mostX = max(0, $w - 2);
        $mostY = max(0, $from->height - 2);
        $i = 0;
        for ($y = $rect->y + 0.5, $endY = $rect->bottom(); $y < $endY; $y += 1.0) {
            for ($x = $rect->x + 0.5, $endX = $rect->right(); $x < $endX; $x += 1.0, ++$i) {
                $z = $m6 * $x + $m7 * $y + $m8;
                $px = ($m0 * $x + $m1 * $y + $m2) / $z;
                $py = ($m3 * $x + $m4 * $y + $m5) / $z;
                if ($px < $left || $py < $top || $px > $right || $py > $bottom) {
                    continue;
                }
                $px -= $from->x + 0.5;
                $py -= $from->y + 0.5;
                $px = $px < 0.0 ? 0.0 : ($px > $lastX ? $lastX : $px);
                $py = $py < 0.0 ? 0.0 : ($py > $lastY ? $lastY : $py);
                $cx = (int) $px;
                $cx = $cx > $mostX ? $mostX : $cx;
                $cy = (int) $py;
                $cy = $cy > $mostY ? $mostY : $cy;
                $fx = $px - $cx;
                $fy = $py - $cy;
                $o = $cy * $w + $cx;
                $u = $o + $below;
                $p = $r[$o] + ($r[$o + $next] - $r[$o]) * $fx;
                $outR[$i] = $p + ($r[$u] + ($r[$u + $next] - $r[$u]) * $fx - $p) * $fy;
                $p = $g[$o] + ($g[$o + $next] - $g[$o]) * $fx;
                $outG[$i] = $p + ($g[$u] + ($g[$u + $next] - $g[$u]) * $fx - $p) * $fy;
                $p = $b[$o] + ($b[$o + $next] - $b[$o]) * $fx;
                $outB[$i] = $p + ($b[$u] + ($b[$u + $next] - $b[$u]) * $fx - $p) * $fy;
            }
        }
    }

    /** The planes over a rectangle inside their own. */
    public function window(Rect $rect): self
    {
        if ($rect->equals($this->rect)) {
            return $this;
        }

        return new self(
            $rect,
            self::cut($this->r, $this->rect, $rect),
            self::cut($this->g, $this->rect, $rect),
            self::cut($this->b, $this->rect, $rect),
        );
    }

    /**
     * @param list<float> $v
     *
     * @return list<float>
     */
    private static function cut(array $v, Rect $from, Rect $rect): array
    {
        $out = array_fill(0, $rect->count(), 0.0);
        foreach ($rect->rowsIn($from) as $o => $i) {
            for ($end = $i + $rect->width; $i < $end; ++$i) {
                $out[$o++] = $v[$i];
            }
        }

        return $out;
    }
}
