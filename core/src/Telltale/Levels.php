<?php

declare(strict_types=1);

namespace Cossel\Core\Telltale;

use Cossel\Core\Picture\Luma;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Keyed;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\Touch;
use Cossel\Core\Touch\Legal;

/**
 * Levels outside the preferred range of EBU R 103 (version 3.0, 2020): the percentage of the finished frame's pixels with R',
 * G' or B' under -5 % or over 105 %, or luma under -1 % or over 103 %. The recommendation bears with 1 % of them.
 */
final readonly class Levels extends Telltale
{
    public function __construct()
    {
        parent::__construct('levels', 'Levels lie outside the legal range.', unit: '% of the frame', limit: 1.0, most: 100.0);
    }

    public function concerns(Recipe $recipe, ?Area $area): bool
    {
        return $area === null;
    }

    public function look(Seen $seen): array
    {
        return [round(100 * self::outside($seen->result->r, $seen->result->g, $seen->result->b) / max(1, $seen->rect()->count()), 4)];
    }

    public function cures(Finding $finding, Recipe $recipe): array
    {
        $others = array_filter($recipe->finish, static fn(Touch $touch): bool => !$touch->kind instanceof Legal);
        $used = array_map(static fn(Touch $touch): string => $touch->id, [
            ...$recipe->base,
            ...$recipe->finish,
            ...array_merge(...array_map(static fn(Area $area): array => $area->touches, $recipe->areas)),
        ]);
        for ($n = 1; in_array("legal{$n}", $used, true); ++$n);
        $legal = new Touch("legal{$n}", new Legal(), ['standard' => 'r103', 'knee' => new Keyed(0.02)]);

        return [Cure::byRecipe('Keep levels legal, last of all', $recipe->withFinish([...array_values($others), $legal]))];
    }

    /**
     * @param list<float> $r
     * @param list<float> $g
     * @param list<float> $b
     */
    private static function outside(array $r, array $g, array $b): int
    {
        $n = 0;
        foreach ($r as $i => $x) {
            $y = $g[$i];
            $z = $b[$i];
            $luma = Luma::at($x, $y, $z);
            if ($luma > Legal::MOST_LUMA || $luma < Legal::LEAST_LUMA || max($x, $y, $z) > Legal::MOST || min($x, $y, $z) < Legal::LEAST) {
                ++$n;
            }
        }

        return $n;
    }
}
