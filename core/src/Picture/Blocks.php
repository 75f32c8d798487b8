<?php

declare(strict_types=1);

namespace Cossel\Core\Picture;

/**
 * A rectangle in square blocks of pixels, short ones at its right and bottom: means of them, and the way back to pixels
 * by reading between their middles (bilinear). Kernel class.
 */
final readonly class Blocks
{
    /** In blocks. */
    public int $width;
    public int $height;

    /** @param int $side of a block in pixels */
    public function __construct(public Rect $rect, public int $side)
    {
        $this->width = intdiv($rect->width + $side - 1, $side);
        $this->height = intdiv($rect->height + $side - 1, $side);
    }

    /** The blocks that hold any of a rectangle inside this one, counted from the first; with a side of 1 its pixels. */
    public function holding(Rect $rect): Rect
    {
        $x = intdiv($rect->x - $this->rect->x, $this->side);
        $y = intdiv($rect->y - $this->rect->y, $this->side);

        return Rect::edges(
            $x,
            $y,
            intdiv($rect->right() - $this->rect->x + $this->side - 1, $this->side),
            intdiv($rect->bottom() - $this->rect->y + $this->side - 1, $this->side),
        );
    }

    /** Some of them, see {@see holding}. */
    public function some(Rect $blocks): self
    {
        $rect = Rect::of(
            $this->rect->x + $blocks->x * $this->side,
            $this->rect->y + $blocks->y * $this->side,
            $blocks->width * $this->side,
            $blocks->height * $this->side,
        );

        return new self($rect->intersect($this->rect), $this->side);
    }

    /**
     * @param list<float> $v over the rectangle
     *
     * @return list<float> the mean of each block
     */
    public function means(array $v): array
    {
        return $this->side === 1 ? $v : self::sums($v, $this->rect->width, $this->rect->height, $this->side, $this->width, $this->height);
    }

    /**
     * @param list<float> $v one for each block
     *
     * @return list<float> over a window inside the rectangle
     */
    public function over(array $v, Rect $window): array
    {
        return $this->side === 1
            ? (new Grey($this->rect, $v))->window($window)->v
            : self::bilinear(
                $v,
                $this->width,
                $this->height,
                $window,
                $window->x - $this->rect->x,
                $window->y - $this->rect->y,
                $this->side,
            );
    }

    /**
     * @param list<float> $v
     *
     * @return list<float>
     */
    private static function sums(array $v, int $width, int $height, int $side, int $bw, int $bh): array
    {
        $sums = array_fill(0, $bw * $bh, 0.0);
        for ($y = 0, $i = 0; $y < $height; ++$y) {
            for ($x = 0, $c = intdiv($y, $side) * $bw; $x < $width; ++$c) {
                for ($end = min($width, $x + $side), $sum = 0.0; $x < $end; ++$x) {
                    $sum += $v[$i++];
                }
                $sums[$c] += $sum;
            }
        }
        $share = 1.0 / ($side * $side);
        $shortX = $width - ($bw - 1) * $side;
        $shortY = $height - ($bh - 1) * $side;
        foreach ($sums as $i => $sum) {
            $sums[$i] = $sum * $share * ($i % $bw === $bw - 1 ? $side / $shortX : 1.0) * ($i >= ($bh - 1) * $bw ? $side / $shortY : 1.0);
        }

        return $sums;
    }

    /**
     * @param list<float> $v
     *
     * @return list<float>
     */
    private static function bilinear(array $v, int $bw, int $bh, Rect $window, int $left, int $top, int $side): array
    {
        $out = array_fill(0, $window->count(), 0.0);
        $columns = $shares = [];
        for ($x = 0; $x < $window->width; ++$x) {
            $p = max(0.0, min($bw - 1.0, ($left + $x + 0.5) / $side - 0.5));
            $c = min((int) $p, max(0, $bw - 2));
            $columns[] = $c;
            $shares[] = $bw > 1 ? $p - $c : 0.0;
        }
        $next = $bw > 1 ? 1 : 0;
        $below = $bh > 1 ? $bw : 0;
        for ($y = 0, $i = 0; $y < $window->height; ++$y) {
            $p = max(0.0, min($bh - 1.0, ($top + $y + 0.5) / $side - 0.5));
            $r = min((int) $p, max(0, $bh - 2));
            $f = $bh > 1 ? $p - $r : 0.0;
            $line = [];
            for ($c = $r * $bw, $end = $c + $bw; $c < $end; ++$c) {
                $line[] = $v[$c] + ($v[$c + $below] - $v[$c]) * $f;
            }
            for ($x = 0; $x < $window->width; ++$x) {
                $c = $columns[$x];
                $out[$i++] = $line[$c] + ($line[$c + $next] - $line[$c]) * $shares[$x];
            }
        }

        return $out;
    }
}
