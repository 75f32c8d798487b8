<?php

declare(strict_types=1);

namespace Cossel\Core\Telltale;

use Cossel\Core\Geometry\Extent;
use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Geometry\TurnedSurface;
use Cossel\Core\Picture\Rect;

/** A square of cells round an area, held still along its motion: each cell is the mean of the pixels that lie in it. */
final readonly class Still
{
    /** Places to a side of a cell that are looked at on a relief. */
    private const PER_CELL = 3;

    /**
     * @param Matrix                                             $back from pixels of the frame to cells
     * @param (\Closure(float, float): array{float, float})|null $bent where a place in cells is seen, in pixels, on a relief
     */
    private function __construct(private Matrix $back, private Matrix $to, private int $cells, private ?\Closure $bent) {}

    /**
     * @param int                $cells   along each side
     * @param float              $room    side of the square over the longer side of the area's extent
     * @param float              $least   side of the square in picture heights, at least
     * @param TurnedSurface|null $surface the square is on; it is flat when left out
     */
    public static function round(Extent $extent, int $rows, int $cells, float $room, float $least, ?TurnedSurface $surface = null): self
    {
        $side = max($least / max(0.01, $extent->scale()), 2 * $room * max($extent->halfWidth, $extent->halfHeight));
        $cell = $side / $cells;
        $square = Matrix::of([$cell, 0, $extent->x - $side / 2, 0, $cell, $extent->y - $side / 2, 0, 0, 1]);
        $to = Matrix::of([$rows, 0, 0, 0, $rows, 0, 0, 0, 1])->times($extent->motion)->times($square);
        $bent = $surface === null ? null : static function (float $x, float $y) use ($surface, $square, $rows): array {
            [$u, $v] = $surface->apply(...$square->apply($x, $y));

            return [$u * $rows, $v * $rows];
        };

        return new self($to->inverse(), $to, $cells, $bent);
    }

    /** Where it lies on the frame. */
    public function rect(Rect $frame): Rect
    {
        $xs = $ys = [];
        foreach ([0, $this->cells / 2, $this->cells] as $y) {
            foreach ([0, $this->cells / 2, $this->cells] as $x) {
                [$xs[], $ys[]] = $this->bent === null ? $this->to->apply($x, $y) : ($this->bent)($x, $y);
            }
        }

        return Rect::around(min($xs), min($ys), max($xs), max($ys))->intersect($frame);
    }

    /**
     * @param \Closure(float, float): array{float, float} $bent
     * @param list<float>                                 $v    over the rectangle
     * @param list<float>                                 $w    how much each pixel counts
     *
     * @return list<float> row by row; NAN where nothing counts
     */
    private function onRelief(\Closure $bent, array $v, array $w, Rect $rect): array
    {
        $means = [];
        for ($j = 0; $j < $this->cells; ++$j) {
            for ($i = 0; $i < $this->cells; ++$i) {
                $sum = $of = 0.0;
                for ($k = 0; $k < self::PER_CELL ** 2; ++$k) {
                    $across = $i + ($k % self::PER_CELL + 0.5) / self::PER_CELL;
                    $down = $j + (intdiv($k, self::PER_CELL) + 0.5) / self::PER_CELL;
                    [$x, $y] = $bent($across, $down);
                    [$column, $row] = [(int) floor($x) - $rect->x, (int) floor($y) - $rect->y];
                    if ($column >= 0 && $row >= 0 && $column < $rect->width && $row < $rect->height) {
                        $at = $row * $rect->width + $column;
                        $sum += $w[$at] * $v[$at];
                        $of += $w[$at];
                    }
                }
                $means[] = $of > 0.0 ? $sum / $of : NAN;
            }
        }

        return $means;
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
        if ($this->bent !== null) {
            return $this->onRelief($this->bent, $v, $w, $rect);
        }
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
