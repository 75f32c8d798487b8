<?php

declare(strict_types=1);

namespace Cossel\Core\Picture;

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
     * R'G'B' at a place, bilinear between the middles of pixels; from the outermost middles on the edge goes on.
     *
     * @return array{float, float, float}
     */
    public function between(float $x, float $y): array
    {
        $w = $this->rect->width;
        $h = $this->rect->height;
        $px = max(0.0, min($w - 1.0, $x - $this->rect->x - 0.5));
        $py = max(0.0, min($h - 1.0, $y - $this->rect->y - 0.5));
        $cx = min((int) $px, max(0, $w - 2));
        $cy = min((int) $py, max(0, $h - 2));
        [$fx, $fy] = [$px - $cx, $py - $cy];
        $o = $cy * $w + $cx;
        $right = $w > 1 ? 1 : 0;
        $below = $h > 1 ? $w : 0;
        [$a, $b, $c, $d] = [(1 - $fx) * (1 - $fy), $fx * (1 - $fy), (1 - $fx) * $fy, $fx * $fy];
        $mixed = static fn(array $v): float => $a * $v[$o] + $b * $v[$o + $right] + $c * $v[$o + $below] + $d * $v[$o + $below + $right];

        return [$mixed($this->r), $mixed($this->g), $mixed($this->b)];
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
