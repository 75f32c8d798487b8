<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Geometry\Linear;
use Cossel\Core\Picture\Luma;

/** Fisher's linear discriminant of two sets of colours: the mixture of R'G'B' that best tells the one from the other. */
final class Discriminant
{
    /** Spread that is always there (noise), so that no mixture is told by less. */
    private const NOISE = 1e-4;

    /**
     * @param list<array{float, float, float}> $a
     * @param list<array{float, float, float}> $b
     *
     * @return array{float, float, float} of length 1; larger for the first set
     */
    public static function between(array $a, array $b): array
    {
        if ($a === [] || $b === []) {
            return Luma::WEIGHTS;
        }
        $within = array_fill(0, 3, array_fill(0, 3, 0.0));
        $means = [];
        foreach ([$a, $b] as $set) {
            $n = count($set);
            $means[] = $mean = [
                array_sum(array_column($set, 0)) / $n,
                array_sum(array_column($set, 1)) / $n,
                array_sum(array_column($set, 2)) / $n,
            ];
            foreach ($set as $p) {
                for ($i = 0; $i < 3; ++$i) {
                    for ($j = 0; $j < 3; ++$j) {
                        $within[$i][$j] += ($p[$i] - $mean[$i]) * ($p[$j] - $mean[$j]) / $n;
                    }
                }
            }
        }
        for ($i = 0; $i < 3; ++$i) {
            $within[$i][$i] += self::NOISE;
        }
        $apart = [$means[0][0] - $means[1][0], $means[0][1] - $means[1][1], $means[0][2] - $means[1][2]];
        $mix = Linear::solve($within, $apart) ?? $apart;
        $length = sqrt($mix[0] ** 2 + $mix[1] ** 2 + $mix[2] ** 2);

        return $length < 1e-9 ? Luma::WEIGHTS : [$mix[0] / $length, $mix[1] / $length, $mix[2] / $length];
    }
}
