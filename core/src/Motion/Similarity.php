<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Recipe\Model;

/**
 * Fits of a motion to point pairs: moving only, or moving, turning and scaling.
 * Source of the closed form: S. Umeyama, "Least-squares estimation of transformation parameters between two point
 * patterns", IEEE PAMI 13(4), 1991.
 */
final class Similarity
{
    /**
     * Least squares.
     *
     * @param list<array{float, float}> $from
     * @param list<array{float, float}> $to
     * @param list<float>|null          $weights
     */
    public static function fit(array $from, array $to, ?array $weights = null, Model $model = Model::Similarity): ?Matrix
    {
        $sum = $fx = $fy = $tx = $ty = 0.0;
        foreach ($from as $i => [$x, $y]) {
            $w = $weights === null ? 1.0 : $weights[$i];
            $sum += $w;
            $fx += $w * $x;
            $fy += $w * $y;
            $tx += $w * $to[$i][0];
            $ty += $w * $to[$i][1];
        }
        if ($sum <= 0) {
            return null;
        }
        $fx /= $sum;
        $fy /= $sum;
        $tx /= $sum;
        $ty /= $sum;
        if ($model === Model::Position) {
            return Matrix::move($tx - $fx, $ty - $fy);
        }
        $spread = $dot = $cross = 0.0;
        foreach ($from as $i => [$x, $y]) {
            $w = $weights === null ? 1.0 : $weights[$i];
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
     * A fit that outliers do not pull: the best of many minimal samples (M. Fischler and R. Bolles, RANSAC, 1981),
     * then least squares reweighted by Tukey's biweight.
     *
     * @param list<array{float, float}> $from
     * @param list<array{float, float}> $to
     * @param float                     $tolerance distance at which a pair counts as an outlier
     *
     * @return array{Matrix, list<float>}|null the motion and each pair's weight, 0 for outliers
     */
    public static function robust(array $from, array $to, float $tolerance, Model $model): ?array
    {
        $n = count($from);
        if ($n < ($model === Model::Position ? 1 : 2)) {
            return null;
        }
        $motion = self::consensus($from, $to, $tolerance, $model);
        $weights = [];
        for ($round = 0; $round < 8 && $motion !== null; ++$round) {
            $weights = self::weights($from, $to, $motion, 1.5 * $tolerance);
            $motion = self::fit($from, $to, $weights, $model);
        }

        return $motion === null ? null : [$motion, $weights];
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
            $motion = self::fit([$from[$i], $from[$j]], [$to[$i], $to[$j]], null, $model);
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
