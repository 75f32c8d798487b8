<?php

declare(strict_types=1);

namespace Cossel\Core\Picture;

/** One plane over a rectangle, row by row: a matte (0..1) or luma (0 black, 1 white). */
final class Grey
{
    /** @param list<float> $v */
    public function __construct(public readonly Rect $rect, public array $v) {}

    public static function filled(Rect $rect, float $value): self
    {
        return new self($rect, array_fill(0, $rect->count(), $value));
    }

    public function at(int $x, int $y): float
    {
        return $this->v[($y - $this->rect->y) * $this->rect->width + $x - $this->rect->x];
    }

    /** The value at a place, bilinear between the middles of pixels; from the outermost middles on the edge goes on. */
    public function between(float $x, float $y): float
    {
        $w = $this->rect->width;
        $x = max(0.0, min($w - 1.001, $x - $this->rect->x - 0.5));
        $y = max(0.0, min($this->rect->height - 1.001, $y - $this->rect->y - 0.5));
        $ix = (int) $x;
        $iy = (int) $y;
        $fx = $x - $ix;
        $fy = $y - $iy;
        $k = $iy * $w + $ix;

        return (1 - $fy) * ((1 - $fx) * $this->v[$k] + $fx * $this->v[$k + 1])
            + $fy * ((1 - $fx) * $this->v[$k + $w] + $fx * $this->v[$k + $w + 1]);
    }

    /**
     * The plane over another rectangle; what lies outside this one is 0.
     */
    public function window(Rect $rect): self
    {
        if ($rect->equals($this->rect)) {
            return $this;
        }
        $out = array_fill(0, $rect->count(), 0.0);
        $common = $this->rect->intersect($rect);
        for ($y = $common->y; $y < $common->bottom(); ++$y) {
            $k = ($y - $this->rect->y) * $this->rect->width + $common->x - $this->rect->x;
            $i = ($y - $rect->y) * $rect->width + $common->x - $rect->x;
            for ($end = $i + $common->width; $i < $end; ++$i) {
                $out[$i] = $this->v[$k++];
            }
        }

        return new self($rect, $out);
    }

    /** Half the size: each pixel the mean of two by two (the last odd row and column are dropped). */
    public function halved(): self
    {
        $w = $this->rect->width;
        $hw = intdiv($w, 2);
        $hh = intdiv($this->rect->height, 2);
        $v = $this->v;
        $out = array_fill(0, $hw * $hh, 0.0);
        $i = 0;
        for ($y = 0; $y < $hh; ++$y) {
            for ($k = 2 * $y * $w, $end = $k + 2 * $hw; $k < $end; $k += 2) {
                $out[$i++] = 0.25 * ($v[$k] + $v[$k + 1] + $v[$k + $w] + $v[$k + $w + 1]);
            }
        }

        return new self(Rect::of(0, 0, $hw, $hh), $out);
    }
}
