<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Geometry\Linear;
use Cossel\Core\Geometry\Matrix;

/**
 * How an affine camera sees a surface that turns: a place q of depth z goes to matrix q + depth z. Eight numbers a frame,
 * linear once the depths are known. C. Tomasi and T. Kanade, "Shape and Motion from Image Streams under Orthography",
 * IJCV 9(2), 1992.
 */
final readonly class ReliefMotion
{
    /** How firmly the shift along the depth is held to none, a share of the places' own say: only what nothing tells. */
    private const FIRM = 5e-5;
    private const ROUNDS = 8;
    /** Spread of the errors, in their median, at which a place no longer counts. */
    private const OUTLIER = 4.5;
    private const LEAST_SPREAD = 0.3;
    private const NEEDED = 6;

    /** @param array{float, float} $depth shift of a place that stands out by 1 */
    public function __construct(public Matrix $matrix, public array $depth = [0.0, 0.0]) {}

    public static function still(): self
    {
        return new self(Matrix::identity());
    }

    /** @return array{float, float} */
    public function apply(float $x, float $y, float $z): array
    {
        $m = $this->matrix->m;

        return [$m[0] * $x + $m[1] * $y + $m[2] + $this->depth[0] * $z, $m[3] * $x + $m[4] * $y + $m[5] + $this->depth[1] * $z];
    }

    /**
     * How the surface is turned, scaled and sheared at a place that rises by so much along x and y.
     *
     * @param array{float, float} $slope
     *
     * @return array{float, float, float, float}
     */
    public function linear(array $slope): array
    {
        $m = $this->matrix->m;

        return [
            $m[0] + $this->depth[0] * $slope[0],
            $m[1] + $this->depth[0] * $slope[1],
            $m[3] + $this->depth[1] * $slope[0],
            $m[4] + $this->depth[1] * $slope[1],
        ];
    }

    /** What comes after this motion. */
    public function then(Matrix $after): self
    {
        [$a, $b, , $c, $d] = $after->m;
        [$u, $v] = $this->depth;

        return new self($after->times($this->matrix), [$a * $u + $b * $v, $c * $u + $d * $v]);
    }

    /** This motion, stated in picture heights, for a picture of this many pixels in height (or back with 1/height). */
    public function inPixels(float $height): self
    {
        return new self($this->matrix->inPixels($height), $this->depth);
    }

    public function mixed(self $other, float $t): self
    {
        return new self(Gap::mixed($this->matrix, $other->matrix, $t), [
            $this->depth[0] + ($other->depth[0] - $this->depth[0]) * $t,
            $this->depth[1] + ($other->depth[1] - $this->depth[1]) * $t,
        ]);
    }

    /** This motion for depths z' with z = tiltX x + tiltY y + offset + scale z'. */
    public function over(float $scale, float $offset, float $tiltX, float $tiltY): self
    {
        $m = $this->matrix->m;
        foreach ([0, 1] as $row) {
            $m[3 * $row] += $this->depth[$row] * $tiltX;
            $m[3 * $row + 1] += $this->depth[$row] * $tiltY;
            $m[3 * $row + 2] += $this->depth[$row] * $offset;
        }

        return new self(Matrix::of($m), [$this->depth[0] * $scale, $this->depth[1] * $scale]);
    }

    /**
     * Least squares.
     *
     * @param list<array{float, float}> $from
     * @param list<float>               $depths
     * @param list<array{float, float}> $to
     * @param list<float>|null          $weights
     */
    public static function least(array $from, array $depths, array $to, ?array $weights = null): ?self
    {
        $sum = $cx = $cy = $cz = 0.0;
        foreach ($from as $i => [$x, $y]) {
            $w = $weights[$i] ?? 1.0;
            $sum += $w;
            $cx += $w * $x;
            $cy += $w * $y;
            $cz += $w * $depths[$i];
        }
        if ($sum <= 0.0) {
            return null;
        }
        [$cx, $cy, $cz] = [$cx / $sum, $cy / $sum, $cz / $sum];
        $size = 0.0;
        foreach ($from as $i => [$x, $y]) {
            $size += ($weights[$i] ?? 1.0) * (($x - $cx) ** 2 + ($y - $cy) ** 2);
        }
        $unit = sqrt(max(1e-18, $size / $sum));
        $a = array_fill(0, 4, [0.0, 0.0, 0.0, 0.0]);
        $bx = $by = [0.0, 0.0, 0.0, 0.0];
        foreach ($from as $i => [$x, $y]) {
            $w = $weights[$i] ?? 1.0;
            if ($w <= 0.0) {
                continue;
            }
            $row = [($x - $cx) / $unit, ($y - $cy) / $unit, 1.0, ($depths[$i] - $cz) / $unit];
            foreach ($row as $r => $v) {
                $v *= $w;
                $a[$r][0] += $v * $row[0];
                $a[$r][1] += $v * $row[1];
                $a[$r][2] += $v;
                $a[$r][3] += $v * $row[3];
                $bx[$r] += $v * $to[$i][0];
                $by[$r] += $v * $to[$i][1];
            }
        }
        $a[3][3] += self::FIRM * $sum;
        [$u, $v] = [Linear::solve($a, $bx), Linear::solve($a, $by)];
        if ($u === null || $v === null) {
            return null;
        }
        $rows = [];
        foreach ([$u, $v] as $k) {
            $rows = [...$rows, $k[0] / $unit, $k[1] / $unit, $k[2] - ($k[0] * $cx + $k[1] * $cy + $k[3] * $cz) / $unit];
        }

        return new self(Matrix::of([...$rows, 0, 0, 1]), [$u[3] / $unit, $v[3] / $unit]);
    }

    /**
     * A fit that outliers do not pull: reweighted by Tukey's biweight about the median error.
     *
     * @param list<array{float, float}> $from
     * @param list<float>               $depths
     * @param list<array{float, float}> $to
     * @param float                     $tolerance distance at which a pair counts as an outlier whatever the others do
     * @param list<float>|null          $trust     how much each counts, besides
     * @param list<float>|null          $first     weights to begin with
     *
     * @return array{self, list<float>}|null the motion and each pair's weight, 0 for outliers
     */
    public static function robust(
        array $from,
        array $depths,
        array $to,
        float $tolerance,
        ?array $trust = null,
        ?array $first = null,
    ): ?array {
        if (count($from) < self::NEEDED) {
            return null;
        }
        $weights = $first ?? $trust ?? array_fill(0, count($from), 1.0);
        $motion = null;
        for ($round = 0; $round < self::ROUNDS; ++$round) {
            $motion = self::least($from, $depths, $to, $weights);
            if ($motion === null) {
                return null;
            }
            $errors = [];
            foreach ($from as $i => [$x, $y]) {
                [$u, $v] = $motion->apply($x, $y, $depths[$i]);
                $errors[] = hypot($u - $to[$i][0], $v - $to[$i][1]);
            }
            $sorted = $errors;
            sort($sorted);
            $reach = min($tolerance, self::OUTLIER * max(self::LEAST_SPREAD, $sorted[intdiv(count($sorted), 2)]));
            // At first most are let in: the first answer is far off.
            $reach = $first === null && $round < 2 ? max($reach, 1.5 * $sorted[(int) (0.75 * count($sorted))]) : $reach;
            foreach ($errors as $i => $e) {
                $weights[$i] = ($trust[$i] ?? 1.0) * ($e >= $reach ? 0.0 : (1.0 - ($e / $reach) ** 2) ** 2);
            }
        }

        return [$motion, $weights];
    }
}
