<?php

declare(strict_types=1);

namespace Cossel\Core\Geometry;

/**
 * A 3x3 matrix, row-major, acting on column vectors (x, y, 1): a motion of the picture plane. Also used for colour.
 */
final readonly class Matrix
{
    /** @param array{float, float, float, float, float, float, float, float, float} $m */
    private function __construct(public array $m) {}

    /**
     * @param array<int, float|int> $m
     *
     * @throws \InvalidArgumentException unless there are nine finite numbers
     */
    public static function of(array $m): self
    {
        if (count($m) !== 9 || !array_is_list($m)) {
            throw new \InvalidArgumentException('A matrix is a list of nine numbers.');
        }
        foreach ($m as $v) {
            if (!is_finite((float) $v)) {
                throw new \InvalidArgumentException('A matrix holds finite numbers only.');
            }
        }

        return new self([
            (float) $m[0],
            (float) $m[1],
            (float) $m[2],
            (float) $m[3],
            (float) $m[4],
            (float) $m[5],
            (float) $m[6],
            (float) $m[7],
            (float) $m[8],
        ]);
    }

    public static function identity(): self
    {
        return new self([1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0]);
    }

    public static function move(float $dx, float $dy): self
    {
        return new self([1.0, 0.0, $dx, 0.0, 1.0, $dy, 0.0, 0.0, 1.0]);
    }

    /**
     * Turning and scaling about a pivot, then moving.
     *
     * @param float $degrees clockwise as seen (y points down)
     */
    public static function about(float $px, float $py, float $degrees, float $scaleX, float $scaleY, float $dx = 0.0, float $dy = 0.0): self
    {
        $c = cos(deg2rad($degrees));
        $s = sin(deg2rad($degrees));
        $a = $c * $scaleX;
        $b = -$s * $scaleY;
        $d = $s * $scaleX;
        $e = $c * $scaleY;

        return new self([$a, $b, $px + $dx - $a * $px - $b * $py, $d, $e, $py + $dy - $d * $px - $e * $py, 0.0, 0.0, 1.0]);
    }

    /** This after the other: (A times B) p = A (B p). */
    public function times(self $other): self
    {
        $a = $this->m;
        $b = $other->m;

        return new self([
            $a[0] * $b[0] + $a[1] * $b[3] + $a[2] * $b[6],
            $a[0] * $b[1] + $a[1] * $b[4] + $a[2] * $b[7],
            $a[0] * $b[2] + $a[1] * $b[5] + $a[2] * $b[8],
            $a[3] * $b[0] + $a[4] * $b[3] + $a[5] * $b[6],
            $a[3] * $b[1] + $a[4] * $b[4] + $a[5] * $b[7],
            $a[3] * $b[2] + $a[4] * $b[5] + $a[5] * $b[8],
            $a[6] * $b[0] + $a[7] * $b[3] + $a[8] * $b[6],
            $a[6] * $b[1] + $a[7] * $b[4] + $a[8] * $b[7],
            $a[6] * $b[2] + $a[7] * $b[5] + $a[8] * $b[8],
        ]);
    }

    /** @throws \DomainException when the matrix flattens the plane */
    public function inverse(): self
    {
        [$a, $b, $c, $d, $e, $f, $g, $h, $i] = $this->m;
        $det = $a * ($e * $i - $f * $h) - $b * ($d * $i - $f * $g) + $c * ($d * $h - $e * $g);
        if (abs($det) < 1e-300) {
            throw new \DomainException('This motion flattens the plane and cannot be undone.');
        }
        $n = 1 / $det;

        return new self([
            ($e * $i - $f * $h) * $n, ($c * $h - $b * $i) * $n, ($b * $f - $c * $e) * $n,
            ($f * $g - $d * $i) * $n, ($a * $i - $c * $g) * $n, ($c * $d - $a * $f) * $n,
            ($d * $h - $e * $g) * $n, ($b * $g - $a * $h) * $n, ($a * $e - $b * $d) * $n,
        ]);
    }

    /** @return array{float, float} where a point goes */
    public function apply(float $x, float $y): array
    {
        $m = $this->m;
        $w = $m[6] * $x + $m[7] * $y + $m[8];

        return [($m[0] * $x + $m[1] * $y + $m[2]) / $w, ($m[3] * $x + $m[4] * $y + $m[5]) / $w];
    }

    /** The linear part of the motion near a point, as a matrix that also carries the point itself rightly. */
    public function affineAt(float $x, float $y): self
    {
        $m = $this->m;
        if ($m[6] === 0.0 && $m[7] === 0.0 && $m[8] === 1.0) {
            return $this;
        }
        [$u, $v] = $this->apply($x, $y);
        $w = $m[6] * $x + $m[7] * $y + $m[8];
        $a = ($m[0] - $u * $m[6]) / $w;
        $b = ($m[1] - $u * $m[7]) / $w;
        $d = ($m[3] - $v * $m[6]) / $w;
        $e = ($m[4] - $v * $m[7]) / $w;

        return new self([$a, $b, $u - $a * $x - $b * $y, $d, $e, $v - $d * $x - $e * $y, 0.0, 0.0, 1.0]);
    }

    /** By how much lengths grow: the square root of how much areas grow. */
    public function scale(): float
    {
        return sqrt(abs($this->m[0] * $this->m[4] - $this->m[1] * $this->m[3]));
    }

    /** The rotation of the linear part nearest to it, degrees clockwise as seen. */
    public function turn(): float
    {
        return rad2deg(atan2($this->m[3] - $this->m[1], $this->m[0] + $this->m[4]));
    }

    /** This motion, stated in picture heights, for a picture of this many pixels in height (or back with 1/height). */
    public function inPixels(float $height): self
    {
        $m = $this->m;

        return new self([$m[0], $m[1], $m[2] * $height, $m[3], $m[4], $m[5] * $height, $m[6] / $height, $m[7] / $height, $m[8]]);
    }
}
