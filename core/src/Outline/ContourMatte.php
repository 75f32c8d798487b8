<?php

declare(strict_types=1);

namespace Cossel\Core\Outline;

use Cossel\Core\Outline\Internal\Pieces;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Box;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\Path;

/**
 * A box, a path or a bent ellipse where it stands on one frame; draws its own matte, the same function of the signed distance as an
 * ellipse's (see {@see EllipseMatte}). Kernel class.
 *
 * The distance to the straight pieces is exact: blocks of pixels are halved again and again, and each keeps only the
 * pieces that can be nearest to any of its pixels; a block that lies wholly inside or outside the feather is filled at
 * once. Inside and outside are told by the even-odd rule along each row.
 */
final readonly class ContourMatte implements ShapeMatte
{
    /** Blocks this wide are drawn pixel by pixel. */
    private const SMALL = 8;
    /**
     * Nanoseconds a pixel, and a pixel and piece of the edge; measured. Of an outline of so many pixels all pieces are about as far from
     * a pixel, and each is asked; the larger it is, the fewer are.
     */
    private const PRICE = 200.0;
    private const PRICE_OF_A_PIECE = 20.0;
    private const SMALL_OUTLINE = 43.0;
    private const FEWER = 1.25;

    private function __construct(
        private Contour $contour,
        private float $grow,
        private float $featherIn,
        private float $featherOut,
        private float $opacity,
    ) {}

    /** @param Box|Path|Ellipse $shape with its values on the frame */
    public static function on(Box|Path|Ellipse $shape, Pose $pose, int $height): self
    {
        $scale = Contour::scale($shape, $pose) * $height;
        $in = $shape->featherIn * $scale;
        $out = $shape->featherOut * $scale;
        if ($in + $out < 1.0) {
            $more = (1.0 - $in - $out) / 2;
            $in += $more;
            $out += $more;
        }

        return new self(
            Contour::of($shape, $pose, $height, max(0.002, min(0.05, 0.002 * ($in + $out)))),
            $shape->grow * $scale,
            $in,
            $out,
            $shape->opacity * Contour::seen($shape, $pose),
        );
    }

    public function price(): float
    {
        $size = max(self::SMALL_OUTLINE, max($this->contour->x) - min($this->contour->x), max($this->contour->y) - min($this->contour->y));

        return self::PRICE + self::PRICE_OF_A_PIECE * (self::SMALL_OUTLINE / $size) ** self::FEWER * count($this->contour->x);
    }

    public function bounds(): Rect
    {
        $more = ($this->grow + $this->featherOut) * max([1.0, ...$this->contour->across]);
        $left = min($this->contour->x) - $more;
        $top = min($this->contour->y) - $more;
        $right = max($this->contour->x) + $more;
        $bottom = max($this->contour->y) + $more;

        return $right <= $left || $bottom <= $top ? Rect::none() : Rect::around($left, $top, $right, $bottom);
    }

    public function matte(Rect $rect): Grey
    {
        $out = array_fill(0, $rect->count(), 0.0);
        $inside = $rect->intersect($this->bounds());
        if (!$inside->isEmpty()) {
            $this->draw($out, $rect, $inside, $this->signs($inside));
        }

        return new Grey($rect, $out);
    }

    /** @return list<float> -1 for pixels inside the edge, 1 outside */
    private function signs(Rect $rect): array
    {
        $signs = array_fill(0, $rect->count(), 1.0);
        $rows = array_fill(0, $rect->height, []);
        $n = count($this->contour->x);
        for ($i = 0; $i < $n; ++$i) {
            $j = $i + 1 === $n ? 0 : $i + 1;
            [$x1, $y1, $x2, $y2] = [
                $this->contour->x[$i],
                $this->contour->y[$i] - $rect->y - 0.5,
                $this->contour->x[$j],
                $this->contour->y[$j] - $rect->y - 0.5,
            ];
            if ($y1 > $y2) {
                [$x1, $y1, $x2, $y2] = [$x2, $y2, $x1, $y1];
            }
            for ($row = max(0, (int) ceil($y1)); $row < $y2 && $row < $rect->height; ++$row) {
                $rows[$row][] = $x1 + ($x2 - $x1) * ($row - $y1) / ($y2 - $y1) - $rect->x - 0.5;
            }
        }
        foreach ($rows as $row => $crossings) {
            sort($crossings);
            for ($c = 1; $c < count($crossings); $c += 2) {
                $to = min($rect->width - 1, (int) floor($crossings[$c]));
                for ($x = max(0, (int) ceil($crossings[$c - 1])); $x <= $to; ++$x) {
                    $signs[$row * $rect->width + $x] = -1.0;
                }
            }
        }

        return $signs;
    }

    /**
     * @param list<float> $out
     * @param list<float> $signs over $inside
     */
    private function draw(array &$out, Rect $rect, Rect $inside, array $signs): void
    {
        // Signed distances up to which the matte is whole, and from which it is 0.
        $solid = $this->grow - $this->featherIn;
        $empty = $this->grow + $this->featherOut;
        $feather = $this->featherIn + $this->featherOut;
        $width = 1.0 / $feather;
        // Where lengths across the edge are foreshortened, its feather is; but never to less than a pixel.
        $across = array_map(static fn(float $v): float => max($v, min(1.0, 1.0 / $feather)), $this->contour->across);
        $pieces = new Pieces($this->contour->x, $this->contour->y, $across);
        $opacity = $this->opacity;
        $size = self::SMALL;
        while ($size < max($inside->width, $inside->height)) {
            $size *= 2;
        }
        $stack = [[$inside->x, $inside->y, $size, range(0, count($this->contour->x) - 1)]];
        while (($block = array_pop($stack)) !== null) {
            [$left, $top, $size, $near] = $block;
            $right = min($inside->right(), $left + $size);
            $bottom = min($inside->bottom(), $top + $size);
            if ($right <= $left || $bottom <= $top) {
                continue;
            }
            $cx = 0.5 * ($left + $right);
            $cy = 0.5 * ($top + $bottom);
            $half = 0.5 * sqrt(($right - $left - 1) ** 2 + ($bottom - $top - 1) ** 2);
            $distances = $pieces->distances($near, $cx, $cy);
            [$from, $to] = $pieces->range($near, $distances, $half);
            if ($from > 0.0) {
                $isOut = $signs[($top - $inside->y) * $inside->width + $left - $inside->x] > 0.0;
                if (($isOut ? $from : -$to) >= $empty) {
                    continue;
                }
                if (($isOut ? $to : -$from) <= $solid) {
                    for ($y = $top; $y < $bottom; ++$y) {
                        for ($i = ($y - $rect->y) * $rect->width + $left - $rect->x, $end = $i + $right - $left; $i < $end; ++$i) {
                            $out[$i] = $opacity;
                        }
                    }
                    continue;
                }
            }
            $nearest = $pieces->within($to, $near, $distances, $half);
            if ($size > self::SMALL) {
                $next = $size >> 1;
                $stack[] = [$left, $top, $next, $nearest];
                $stack[] = [$left + $next, $top, $next, $nearest];
                $stack[] = [$left, $top + $next, $next, $nearest];
                $stack[] = [$left + $next, $top + $next, $next, $nearest];
                continue;
            }
            for ($y = $top; $y < $bottom; ++$y) {
                $i = ($y - $rect->y) * $rect->width + $left - $rect->x;
                $k = ($y - $inside->y) * $inside->width + $left - $inside->x;
                $least = $pieces->least($nearest, $left + 0.5, $y + 0.5, $right - $left);
                foreach ($least as $x => $distance) {
                    $t = ($signs[$k + $x] * sqrt($distance) - $solid) * $width;
                    if ($t <= 0.0) {
                        $out[$i + $x] = $opacity;
                    } elseif ($t < 1.0) {
                        $out[$i + $x] = $opacity * (1.0 - $t * $t * (3.0 - 2.0 * $t));
                    }
                }
            }
        }
    }
}
