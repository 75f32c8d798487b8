<?php

declare(strict_types=1);

namespace Cossel\Core\Outline;

use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Box;
use Cossel\Core\Recipe\Path;

/**
 * A box or path where it stands on one frame; draws its own matte, the same function of the signed distance as an
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

    private function __construct(
        private Contour $contour,
        private float $grow,
        private float $featherIn,
        private float $featherOut,
        private float $opacity,
    ) {}

    /** @param Box|Path $shape with its values on the frame */
    public static function on(Box|Path $shape, Pose $pose, int $height): self
    {
        $scale = Contour::scale($shape, $pose) * $height;
        $in = $shape->featherIn * $scale;
        $out = $shape->featherOut * $scale;
        if ($in + $out < 1.0) {
            $more = (1.0 - $in - $out) / 2;
            $in += $more;
            $out += $more;
        }

        return new self(Contour::of($shape, $pose, $height, max(0.002, min(0.05, 0.002 * ($in + $out)))), $shape->grow * $scale, $in, $out, $shape->opacity);
    }

    public function bounds(): Rect
    {
        $more = $this->grow + $this->featherOut;
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
            self::draw($out, $rect, $inside, $this->signs($inside), $this->contour->x, $this->contour->y, $this->grow - $this->featherIn, 1.0 / ($this->featherIn + $this->featherOut), $this->grow + $this->featherOut, $this->opacity);
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
            [$x1, $y1, $x2, $y2] = [$this->contour->x[$i], $this->contour->y[$i] - $rect->y - 0.5, $this->contour->x[$j], $this->contour->y[$j] - $rect->y - 0.5];
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
     * @param list<float> $xs
     * @param list<float> $ys
     * @param float       $solid signed distance up to which the matte is whole
     * @param float       $empty and from which it is 0
     */
    private static function draw(array &$out, Rect $rect, Rect $inside, array $signs, array $xs, array $ys, float $solid, float $width, float $empty, float $opacity): void
    {
        $n = count($xs);
        $dx = $dy = $squares = [];
        for ($i = 0; $i < $n; ++$i) {
            $j = $i + 1 === $n ? 0 : $i + 1;
            $dx[] = $a = $xs[$j] - $xs[$i];
            $dy[] = $b = $ys[$j] - $ys[$i];
            $squares[] = max(1e-18, $a * $a + $b * $b);
        }
        $size = self::SMALL;
        while ($size < max($inside->width, $inside->height)) {
            $size *= 2;
        }
        $stack = [[$inside->x, $inside->y, $size, range(0, $n - 1)]];
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
            $distances = self::distances($near, $xs, $ys, $dx, $dy, $squares, $cx, $cy);
            $least = sqrt(min($distances));
            if ($least > $half) {
                $sign = $signs[($top - $inside->y) * $inside->width + $left - $inside->x];
                if ($sign * $least - $half >= $empty) {
                    continue;
                }
                if ($sign * $least + $half <= $solid) {
                    for ($y = $top; $y < $bottom; ++$y) {
                        for ($i = ($y - $rect->y) * $rect->width + $left - $rect->x, $end = $i + $right - $left; $i < $end; ++$i) {
                            $out[$i] = $opacity;
                        }
                    }
                    continue;
                }
            }
            $limit = ($least + 2 * $half) ** 2 * (1 + 1e-9);
            $nearest = [];
            foreach ($distances as $k => $d) {
                if ($d <= $limit) {
                    $nearest[] = $near[$k];
                }
            }
            if ($size > self::SMALL) {
                $next = $size >> 1;
                $stack[] = [$left, $top, $next, $nearest];
                $stack[] = [$left + $next, $top, $next, $nearest];
                $stack[] = [$left, $top + $next, $next, $nearest];
                $stack[] = [$left + $next, $top + $next, $next, $nearest];
                continue;
            }
            for ($y = $top; $y < $bottom; ++$y) {
                self::row($out, ($y - $rect->y) * $rect->width + $left - $rect->x, $right - $left, $left + 0.5, $y + 0.5, $signs, ($y - $inside->y) * $inside->width + $left - $inside->x, $nearest, $xs, $ys, $dx, $dy, $squares, $solid, $width, $opacity);
            }
        }
    }

    /**
     * Squared distances of a point to some of the pieces.
     *
     * @param list<int>   $near
     * @param list<float> $xs
     * @param list<float> $ys
     * @param list<float> $dx
     * @param list<float> $dy
     * @param list<float> $squares
     *
     * @return non-empty-list<float>
     */
    private static function distances(array $near, array $xs, array $ys, array $dx, array $dy, array $squares, float $x, float $y): array
    {
        $distances = [];
        foreach ($near as $i) {
            $u = $x - $xs[$i];
            $v = $y - $ys[$i];
            $t = ($u * $dx[$i] + $v * $dy[$i]) / $squares[$i];
            $t = $t < 0.0 ? 0.0 : ($t > 1.0 ? 1.0 : $t);
            $u -= $t * $dx[$i];
            $v -= $t * $dy[$i];
            $distances[] = $u * $u + $v * $v;
        }

        return $distances;
    }

    /**
     * @param list<float> $out
     * @param list<float> $signs
     * @param list<int>   $near
     * @param list<float> $xs
     * @param list<float> $ys
     * @param list<float> $dx
     * @param list<float> $dy
     * @param list<float> $squares
     */
    private static function row(array &$out, int $i, int $n, float $x, float $y, array $signs, int $s, array $near, array $xs, array $ys, array $dx, array $dy, array $squares, float $solid, float $width, float $opacity): void
    {
        for ($end = $i + $n; $i < $end; ++$i, ++$s, $x += 1.0) {
            $least = INF;
            foreach ($near as $k) {
                $u = $x - $xs[$k];
                $v = $y - $ys[$k];
                $a = $dx[$k];
                $b = $dy[$k];
                $t = ($u * $a + $v * $b) / $squares[$k];
                if ($t > 0.0) {
                    if ($t > 1.0) {
                        $t = 1.0;
                    }
                    $u -= $t * $a;
                    $v -= $t * $b;
                }
                $d = $u * $u + $v * $v;
                if ($d < $least) {
                    $least = $d;
                }
            }
            $t = ($signs[$s] * sqrt($least) - $solid) * $width;
            if ($t <= 0.0) {
                $out[$i] = $opacity;
            } elseif ($t < 1.0) {
                $out[$i] = $opacity * (1.0 - $t * $t * (3.0 - 2.0 * $t));
            }
        }
    }
}
