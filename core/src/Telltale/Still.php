<?php

declare(strict_types=1);

namespace Cossel\Core\Telltale;

use Cossel\Core\Geometry\Extent;
use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Picture\Rect;

/** A square of cells round an area, held still along its motion: each cell is the mean of the pixels that lie in it. */
final readonly class Still
{
    /** @param Matrix $back from pixels of the frame to cells */
    private function __construct(private Matrix $back, private Matrix $to, private int $cells) {}

    /**
     * @param int   $cells along each side
     * @param float $room  side of the square over the longer side of the area's extent
     * @param float $least side of the square in picture heights, at least
     */
    public static function round(Extent $extent, int $rows, int $cells, float $room, float $least): self
    {
        $side = max($least / max(0.01, $extent->scale()), 2 * $room * max($extent->halfWidth, $extent->halfHeight));
        $cell = $side / $cells;
        $square = Matrix::of([$cell, 0, $extent->x - $side / 2, 0, $cell, $extent->y - $side / 2, 0, 0, 1]);
        $to = Matrix::of([$rows, 0, 0, 0, $rows, 0, 0, 0, 1])->times($extent->motion)->times($square);

        return new self($to->inverse(), $to, $cells);
    }

    /** Where it lies on the frame. */
    public function rect(Rect $frame): Rect
    {
        $xs = $ys = [];
        foreach ([[0, 0], [$this->cells, 0], [0, $this->cells], [$this->cells, $this->cells]] as [$x, $y]) {
            [$xs[], $ys[]] = $this->to->apply($x, $y);
        }

        return Rect::around(min($xs), min($ys), max($xs), max($ys))->intersect($frame);
    }

    /**
     * @param list<float> $v     over the rectangle
     * @param list<float> $w     how much each pixel counts
     * @param float       $least that has to count in a cell, in pixels looked at
     *
     * @return list<float> row by row; NAN where less counts
     */
    public function means(array $v, array $w, Rect $rect, float $least): array
    {
        $n = $this->cells;
        $sums = $of = array_fill(0, $n * $n, 0.0);
        [$a, $b, $c, $d, $e, $f, $p, $q, $r] = $this->back->m;
        // Large areas are seen well enough by every second pixel or fewer.
        $pixel = sqrt(abs($a * $e - $b * $d)) / max(1e-9, abs($r));
        $step = max(1, (int) floor(0.25 / max(1e-9, $pixel)));
        for ($y = $rect->y; $y < $rect->bottom(); $y += $step) {
            $i = ($y - $rect->y) * $rect->width;
            for ($x = $rect->x; $x < $rect->right(); $x += $step, $i += $step) {
                $k = $w[$i];
                if ($k <= 0.0) {
                    continue;
                }
                $px = $x + 0.5;
                $py = $y + 0.5;
                $z = $p * $px + $q * $py + $r;
                $cx = (int) floor(($a * $px + $b * $py + $c) / $z);
                $cy = (int) floor(($d * $px + $e * $py + $f) / $z);
                if ($cx >= 0 && $cy >= 0 && $cx < $n && $cy < $n) {
                    $o = $cy * $n + $cx;
                    $sums[$o] += $k * $v[$i];
                    $of[$o] += $k;
                }
            }
        }
        foreach ($sums as $o => $sum) {
            $sums[$o] = $of[$o] >= $least ? $sum / $of[$o] : NAN;
        }

        return $sums;
    }
}
