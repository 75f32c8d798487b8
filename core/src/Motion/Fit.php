<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Geometry\Linear;
use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Recipe\Model;

/**
 * Fits of a motion to point pairs, by model: moving only; moving, turning and scaling; with shear; with perspective.
 * The outline and iris models are similarities as far as the whole is concerned.
 *
 * Sources: S. Umeyama, "Least-squares estimation of transformation parameters between two point patterns", IEEE PAMI
 * 13(4), 1991, for the similarity; R. Hartley and A. Zisserman, "Multiple View Geometry", 2nd ed., sections 4.1 and 4.4,
 * for normalising and for the perspective.
 */
final class Fit
{
    /** Rounds by which a perspective's linear answer is brought to least geometric error. */
    private const ROUNDS = 3;
    /** How firmly a perspective holds to none where the points hardly tell: a share of the points' own say. */
    private const FIRM = 0.008;

    /**
     * Least squares.
     *
     * @param list<array{float, float}> $from
     * @param list<array{float, float}> $to
     * @param list<float>|null          $weights
     *
     * @return Matrix|null null where the points do not settle the motion
     */
    public static function least(Model $model, array $from, array $to, ?array $weights = null): ?Matrix
    {
        $weights ??= array_fill(0, count($from), 1.0);
        $sum = array_sum($weights);
        if ($sum <= 0) {
            return null;
        }
        $fx = $fy = $tx = $ty = 0.0;
        foreach ($from as $i => [$x, $y]) {
            $w = $weights[$i];
            $fx += $w * $x;
            $fy += $w * $y;
            $tx += $w * $to[$i][0];
            $ty += $w * $to[$i][1];
        }
        $centre = [$fx / $sum, $fy / $sum, $tx / $sum, $ty / $sum];

        return match ($model) {
            Model::Position => Matrix::move($centre[2] - $centre[0], $centre[3] - $centre[1]),
            Model::Affine => self::affine($from, $to, $weights, $centre),
            Model::Perspective => self::perspective($from, $to, $weights, $centre),
            default => self::similarity($from, $to, $weights, $centre),
        };
    }

    /**
     * A fit that outliers do not pull: the best of many minimal samples (M. Fischler and R. Bolles, RANSAC, 1981),
     * then least squares reweighted by Tukey's biweight.
     *
     * @param list<array{float, float}> $from
     * @param list<array{float, float}> $to
     * @param float                     $tolerance distance at which a pair counts as an outlier
     * @param list<float>|null          $trust     how much each pair counts from the start
     *
     * @return array{Matrix, list<float>}|null the motion and each pair's weight, 0 for outliers
     */
    public static function robust(Model $model, array $from, array $to, float $tolerance, ?array $trust = null): ?array
    {
        if (count($from) < self::needed($model)) {
            return null;
        }
        // A consensus needs no more than a similarity: what turns out of the plane stays within the tolerance.
        $motion = self::consensus($from, $to, $tolerance, $model === Model::Position ? $model : Model::Similarity);
        $weights = [];
        for ($round = 0; $round < 8 && $motion !== null; ++$round) {
            $weights = self::weights($from, $to, $motion, 1.5 * $tolerance);
            foreach ($trust ?? [] as $i => $t) {
                $weights[$i] *= $t;
            }
            $motion = self::least($round < 2 && $model !== Model::Position ? Model::Similarity : $model, $from, $to, $weights);
        }

        return $motion === null ? null : [$motion, $weights];
    }

    /** Pairs without which a motion is not settled. */
    public static function needed(Model $model): int
    {
        return match ($model) {
            Model::Position => 1,
            Model::Affine => 3,
            Model::Perspective => 4,
            default => 2,
        };
    }

    /**
     * @param list<array{float, float}>         $from
     * @param list<array{float, float}>         $to
     * @param list<float>                       $weights
     * @param array{float, float, float, float} $centre
     */
    private static function similarity(array $from, array $to, array $weights, array $centre): ?Matrix
    {
        [$fx, $fy, $tx, $ty] = $centre;
        $spread = $dot = $cross = 0.0;
        foreach ($from as $i => [$x, $y]) {
            $w = $weights[$i];
            $ax = $x - $fx;
            $ay = $y - $fy;
            $bx = $to[$i][0] - $tx;
            $by = $to[$i][1] - $ty;
            $spread += $w * ($ax * $ax + $ay * $ay);
            $dot += $w * ($ax * $bx + $ay * $by);
            $cross += $w * ($ax * $by - $ay * $bx);
        }
        if ($spread < 1e-12 || $dot * $dot + $cross * $cross < 1e-24) {
            return null;
        }
        $a = $dot / $spread;
        $b = $cross / $spread;

        return Matrix::of([$a, -$b, $tx - $a * $fx + $b * $fy, $b, $a, $ty - $b * $fx - $a * $fy, 0, 0, 1]);
    }

    /**
     * @param list<array{float, float}>         $from
     * @param list<array{float, float}>         $to
     * @param list<float>                       $weights
     * @param array{float, float, float, float} $centre
     */
    private static function affine(array $from, array $to, array $weights, array $centre): ?Matrix
    {
        [$fx, $fy, $tx, $ty] = $centre;
        $xx = $xy = $yy = $xu = $yu = $xv = $yv = 0.0;
        foreach ($from as $i => [$x, $y]) {
            $w = $weights[$i];
            $x -= $fx;
            $y -= $fy;
            $u = $to[$i][0] - $tx;
            $v = $to[$i][1] - $ty;
            $xx += $w * $x * $x;
            $xy += $w * $x * $y;
            $yy += $w * $y * $y;
            $xu += $w * $x * $u;
            $yu += $w * $y * $u;
            $xv += $w * $x * $v;
            $yv += $w * $y * $v;
        }
        $det = $xx * $yy - $xy * $xy;
        if ($det <= 1e-9 * ($xx + $yy) ** 2) {
            return null;
        }
        $a = ($xu * $yy - $yu * $xy) / $det;
        $b = ($yu * $xx - $xu * $xy) / $det;
        $d = ($xv * $yy - $yv * $xy) / $det;
        $e = ($yv * $xx - $xv * $xy) / $det;

        return Matrix::of([$a, $b, $tx - $a * $fx - $b * $fy, $d, $e, $ty - $d * $fx - $e * $fy, 0, 0, 1]);
    }

    /**
     * The affine answer, then Gauss-Newton on the geometric error in normalised coordinates.
     *
     * @param list<array{float, float}>         $from
     * @param list<array{float, float}>         $to
     * @param list<float>                       $weights
     * @param array{float, float, float, float} $centre
     */
    private static function perspective(array $from, array $to, array $weights, array $centre): ?Matrix
    {
        $start = self::affine($from, $to, $weights, $centre);
        if ($start === null) {
            return null;
        }
        [$fx, $fy, $tx, $ty] = $centre;
        $spread = 0.0;
        foreach ($from as $i => [$x, $y]) {
            $spread += $weights[$i] * (($x - $fx) ** 2 + ($y - $fy) ** 2);
        }
        $size = sqrt($spread / array_sum($weights));
        $source = Matrix::of([1 / $size, 0, -$fx / $size, 0, 1 / $size, -$fy / $size, 0, 0, 1]);
        $target = Matrix::of([1 / $size, 0, -$tx / $size, 0, 1 / $size, -$ty / $size, 0, 0, 1]);
        $firm = self::FIRM * array_sum($weights);
        $h = $target->times($start)->times($source->inverse())->m;
        for ($round = 0; $round < self::ROUNDS; ++$round) {
            $a = array_fill(0, 8, array_fill(0, 8, 0.0));
            $b = array_fill(0, 8, 0.0);
            foreach ($from as $i => [$x, $y]) {
                $x = ($x - $fx) / $size;
                $y = ($y - $fy) / $size;
                $q = 1 / ($h[6] * $x + $h[7] * $y + 1);
                $u = ($h[0] * $x + $h[1] * $y + $h[2]) * $q;
                $v = ($h[3] * $x + $h[4] * $y + $h[5]) * $q;
                foreach ([
                    [[$x * $q, $y * $q, $q, 0.0, 0.0, 0.0, -$u * $x * $q, -$u * $y * $q], ($to[$i][0] - $tx) / $size - $u],
                    [[0.0, 0.0, 0.0, $x * $q, $y * $q, $q, -$v * $x * $q, -$v * $y * $q], ($to[$i][1] - $ty) / $size - $v],
                ] as [$row, $miss]) {
                    for ($r = 0; $r < 8; ++$r) {
                        $k = $weights[$i] * $row[$r];
                        if ($k !== 0.0) {
                            $b[$r] += $k * $miss;
                            for ($c = 0; $c < 8; ++$c) {
                                $a[$r][$c] += $k * $row[$c];
                            }
                        }
                    }
                }
            }
            foreach ([6, 7] as $k) {
                $a[$k][$k] += $firm;
                $b[$k] -= $firm * $h[$k];
            }
            $step = Linear::solve($a, $b);
            if ($step === null) {
                return $start;
            }
            foreach ($step as $r => $change) {
                $h[$r] += $change;
            }
            // The plane must not tip over within the points.
            if (max(abs($h[6]), abs($h[7])) > 0.25) {
                return $start;
            }
        }
        $m = $target->inverse()->times(Matrix::of($h))->times($source)->m;

        return Matrix::of(array_map(static fn(float $v): float => $v / $m[8], $m));
    }

    /**
     * @param list<array{float, float}> $from
     * @param list<array{float, float}> $to
     */
    private static function consensus(array $from, array $to, float $tolerance, Model $model): ?Matrix
    {
        $n = count($from);
        $best = null;
        $least = INF;
        $random = new \Random\Randomizer(new \Random\Engine\Mt19937(7));
        for ($try = 0; $try < 80; ++$try) {
            $i = $random->getInt(0, $n - 1);
            $j = $random->getInt(0, $n - 1);
            if ($model !== Model::Position && $i === $j) {
                continue;
            }
            $motion = self::least($model, [$from[$i], $from[$j]], [$to[$i], $to[$j]]);
            if ($motion === null) {
                continue;
            }
            $cost = 0.0;
            $m = $motion->m;
            for ($k = 0; $k < $n && $cost < $least; ++$k) {
                [$x, $y] = $from[$k];
                $dx = $m[0] * $x + $m[1] * $y + $m[2] - $to[$k][0];
                $dy = $m[3] * $x + $m[4] * $y + $m[5] - $to[$k][1];
                $cost += min($dx * $dx + $dy * $dy, $tolerance * $tolerance);
            }
            if ($cost < $least) {
                $least = $cost;
                $best = $motion;
            }
        }

        return $best;
    }

    /**
     * @param list<array{float, float}> $from
     * @param list<array{float, float}> $to
     *
     * @return list<float>
     */
    private static function weights(array $from, array $to, Matrix $motion, float $reach): array
    {
        $weights = [];
        foreach ($from as $i => [$x, $y]) {
            [$u, $v] = $motion->apply($x, $y);
            $e = (($u - $to[$i][0]) ** 2 + ($v - $to[$i][1]) ** 2) / ($reach * $reach);
            $weights[] = $e >= 1.0 ? 0.0 : (1.0 - $e) ** 2;
        }

        return $weights;
    }
}
