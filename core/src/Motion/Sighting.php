<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Picture\Grey;

/** Looks for a region that was lost, further than its points reach. Kernel class. */
final class Sighting
{
    /** Least likeness, from samples on a grid of so many to a side. */
    private const SIGHTED = 0.45;
    private const GRID = 22;

    /**
     * Where a lost region is again, roughly: the shift from its last place at which the coarsest level is most like it
     * (normalised cross-correlation).
     *
     * @param Grey    $mask   where the region is on the start frame
     * @param Pyramid $before the frame on which it was seen last, and
     * @param Matrix  $now    its motion there
     * @param int     $reach  furthest to look, pixels
     *
     * @return array{float, float}|null pixels; null where nothing is like it
     */
    public static function shift(Grey $mask, Pyramid $before, Matrix $now, Pyramid $pyramid, int $reach): ?array
    {
        $level = PointSearch::LEVELS - 1;
        $unit = 1 << $level;
        $was = $before->levels[$level];
        $region = $mask->rect;
        $xs = $ys = $values = [];
        $step = sqrt($region->count()) / self::GRID;
        for ($y = $region->y + $step / 2; $y < $region->bottom(); $y += $step) {
            for ($x = $region->x + $step / 2; $x < $region->right(); $x += $step) {
                [$u, $v] = $now->apply($x, $y);
                $i = (int) floor($u / $unit) - $was->rect->x;
                $j = (int) floor($v / $unit) - $was->rect->y;
                if ($mask->at((int) $x, (int) $y) > 0.5 && $i >= 0 && $j >= 0 && $i < $was->rect->width && $j < $was->rect->height) {
                    $xs[] = $i + $was->rect->x;
                    $ys[] = $j + $was->rect->y;
                    $values[] = $was->v[$j * $was->rect->width + $i];
                }
            }
        }

        return self::likest($values, $xs, $ys, $pyramid->levels[$level], intdiv($reach, $unit), $unit);
    }

    /**
     * @param list<float> $values
     * @param list<int>   $xs
     * @param list<int>   $ys
     *
     * @return array{float, float}|null
     */
    private static function likest(array $values, array $xs, array $ys, Grey $grey, int $reach, int $unit): ?array
    {
        $n = count($values);
        $mean = array_sum($values) / max(1, $n);
        $norm = 0.0;
        foreach ($values as $k => $v) {
            $values[$k] = $v - $mean;
            $norm += ($v - $mean) ** 2;
        }
        $best = null;
        $most = self::SIGHTED;
        $w = $grey->rect->width;
        $h = $grey->rect->height;
        $v = $grey->v;
        for ($dy = -$reach; $dy <= $reach; ++$dy) {
            for ($dx = -$reach; $dx <= $reach; ++$dx) {
                $sum = $squares = $product = 0.0;
                $seen = 0;
                for ($k = 0; $k < $n; ++$k) {
                    $i = $xs[$k] + $dx - $grey->rect->x;
                    $j = $ys[$k] + $dy - $grey->rect->y;
                    if ($i >= 0 && $j >= 0 && $i < $w && $j < $h) {
                        $q = $v[$j * $w + $i];
                        $sum += $q;
                        $squares += $q * $q;
                        $product += $q * $values[$k];
                        ++$seen;
                    }
                }
                $spread = $seen > 0.6 * $n ? $squares - $sum * $sum / $seen : 0.0;
                if ($spread > 1e-6 && $product > $most * sqrt($spread * $norm)) {
                    $most = $product / sqrt($spread * $norm);
                    $best = [(float) ($dx * $unit), (float) ($dy * $unit)];
                }
            }
        }

        return $best;
    }
}
