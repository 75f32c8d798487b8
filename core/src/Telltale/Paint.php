<?php

declare(strict_types=1);

namespace Cossel\Core\Telltale;

use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Part;
use Cossel\Core\Recipe\Recipe;

/**
 * An iris like paint. Over the matte (more than .5) of an iris, in Oklab, from before the area (0) to after it (1): the share
 * of the standard deviation of L that is lost, which is that of the fibres; and how much louder than eyes are its one hue is,
 *
 *     R (C1 / max(.09, 1.25 C0) - 1)
 *
 * with C the mean chroma and R the length of the mean of (a, b) over C1, which is 1 where all has one hue. The greater of the
 * two, in percent.
 */
final readonly class Paint extends Telltale
{
    private const FEW = 60;

    public function __construct()
    {
        parent::__construct('paint', 'The iris has lost its fibres, or has one loud colour all over.', unit: '%', limit: 35.0, most: 100.0);
    }

    public function concerns(Recipe $recipe, ?Area $area): bool
    {
        return $area?->is(Part::Iris) === true;
    }

    public function look(Seen $seen): ?array
    {
        if (!$seen->isTreated() || ($seen->openness ?? 1.0) < 0.5) {
            return null;
        }
        $before = self::colours($seen->before()->l, $seen->before()->a, $seen->before()->b, $seen->matte->v);
        $after = self::colours($seen->after()->l, $seen->after()->a, $seen->after()->b, $seen->matte->v);
        if ($before === null || $after === null) {
            return null;
        }
        $lost = 1 - $after[0] / max(1e-6, $before[0]);
        $loud = $after[2] * ($after[1] / max(0.09, 1.25 * $before[1]) - 1);

        return [round(100 * max(0.0, $lost, $loud), 2)];
    }

    public function cures(Finding $finding, Recipe $recipe): array
    {
        return [Cure::lessOf('the iris’s new colour', $finding, $recipe, 'iris') ?? Cure::weaker($finding, $recipe)];
    }

    /**
     * @param list<float> $l
     * @param list<float> $a
     * @param list<float> $b
     * @param list<float> $w
     *
     * @return array{float, float, float}|null standard deviation of L, mean chroma, and how much of it has one hue
     */
    private static function colours(array $l, array $a, array $b, array $w): ?array
    {
        $n = $sl = $sll = $sc = $sa = $sb = 0.0;
        foreach ($w as $i => $k) {
            if ($k > 0.5) {
                ++$n;
                $sl += $l[$i];
                $sll += $l[$i] * $l[$i];
                $sa += $a[$i];
                $sb += $b[$i];
                $sc += sqrt($a[$i] * $a[$i] + $b[$i] * $b[$i]);
            }
        }
        if ($n < self::FEW) {
            return null;
        }

        return [sqrt(max(0.0, $sll / $n - ($sl / $n) ** 2)), $sc / $n, sqrt($sa * $sa + $sb * $sb) / max(1e-9, $sc)];
    }
}
