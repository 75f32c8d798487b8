<?php

declare(strict_types=1);

namespace Cossel\Core\Telltale;

use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Keyed;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\Touch;

/**
 * Restlessness that the treatment brings in. Oklab L of what is under the matte is held still along the motion in 4 x 4
 * cells, as the area is given it and as it leaves it. Each cell's second difference over three frames, v(f) - (v(f-1) +
 * v(f+1)) / 2, is free of steady change; a of it after, b before. With k, from 1 to 3, the spread of the cells after over
 * that before: what a treatment makes of the picture's own differences in space it may make of those in time. The measure is
 * the third quartile over the cells of
 *
 *     100 max(0, |a| - 1.4 k |b|)
 *
 * in hundredths of lightness: a quarter of the area has to be restless.
 */
final readonly class Flicker extends Telltale
{
    private const CELLS = 4;

    public function __construct()
    {
        parent::__construct(
            'flicker',
            'The treated area changes from frame to frame more than it did untreated.',
            unit: '% of lightness',
            limit: 1.0,
            most: 10.0,
        );
    }

    public function look(Seen $seen): ?array
    {
        if ($seen->extent === null || $seen->touches === []) {
            return null;
        }
        $still = Still::round($seen->extent, $seen->rows(), self::CELLS, 1.0, 0.03);
        $values = [];
        foreach ([$seen->before(), $seen->after()] as $lab) {
            array_push($values, ...array_map(
                static fn(float $v): float => is_nan($v) ? -1.0 : round($v, 5),
                $still->means($lab->l, $seen->matte->v, $seen->rect(), 2.0),
            ));
        }

        return $values;
    }

    public function measures(array $looks, Recipe $recipe, ?Area $area): array
    {
        $own = $area === null ? [] : $looks[$area->id] ?? [];
        $measures = [];
        $n = self::CELLS * self::CELLS;
        foreach ($own as $frame => $now) {
            [$last, $next] = [$own[$frame - 1] ?? null, $own[$frame + 1] ?? null];
            if ($last === null || $next === null) {
                continue;
            }
            $values = [[], []];
            $steps = [];
            for ($i = 0; $i < $n; ++$i) {
                if (min($last[$i], $now[$i], $next[$i]) < 0.0) {
                    continue;
                }
                foreach ([0, 1] as $k) {
                    $j = $i + $k * $n;
                    array_push($values[$k], $last[$j], $now[$j], $next[$j]);
                    $steps[$i][$k] = abs($now[$j] - ($last[$j] + $next[$j]) / 2);
                }
            }
            if ($steps === []) {
                continue;
            }
            $gain = max(1.0, min(3.0, self::spread($values[1]) / self::spread($values[0])));
            $restless = array_map(static fn(array $step): float => max(0.0, $step[1] - 1.4 * $gain * $step[0]), $steps);
            sort($restless);
            $measures[$frame] = 100 * $restless[(int) floor(0.75 * count($restless))];
        }

        return $measures;
    }

    public function cures(Finding $finding, Recipe $recipe): array
    {
        return $finding->area === null
            ? []
            : [self::unkeyed($finding->area, $recipe) ?? self::softerPick($finding->area, $recipe) ?? Cure::weaker($finding, $recipe)];
    }

    private static function unkeyed(Area $area, Recipe $recipe): ?Cure
    {
        $touches = array_map(static fn(Touch $touch): Touch => $touch->withAmount($touch->amount->evened()), $area->touches);
        $keyed = array_filter(
            [$area->strength, ...array_map(static fn(Touch $touch): Keyed => $touch->amount, $area->touches)],
            static fn(Keyed $v): bool => $v->keys !== [],
        );

        return $keyed === [] ? null : Cure::byRecipe(
            'Make one value of the keyed strengths',
            $recipe->withArea($area->withStrength($area->strength->evened())->withTouches($touches)),
        );
    }

    private static function softerPick(Area $area, Recipe $recipe): ?Cure
    {
        $pick = $area->pick;
        if ($pick === null) {
            return null;
        }
        $soft = static fn(array $range): array => [$range[0], $range[1], round($range[2] * 1.6, 4)];
        $softer = $pick->withRanges($pick->samples, $soft($pick->hue), $soft($pick->chroma), $soft($pick->light), $pick->follow);

        return Cure::byRecipe('Soften the pick', $recipe->withArea($area->withPick($softer->withBlur(round($pick->blur + 0.003, 4)))));
    }

    /** @param non-empty-list<float> $v */
    private static function spread(array $v): float
    {
        $mean = array_sum($v) / count($v);

        return max(1e-4, sqrt(array_sum(array_map(static fn(float $x): float => ($x - $mean) ** 2, $v)) / count($v)));
    }
}
