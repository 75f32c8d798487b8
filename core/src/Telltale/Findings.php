<?php

declare(strict_types=1);

namespace Cossel\Core\Telltale;

use Cossel\Core\Recipe\Recipe;

/** What the looks of a shot's frames come to. */
final class Findings
{
    /**
     * @param array<int, array<string, array<string, list<float>>>> $looks by frame: what {@see Inspection} keeps of it
     *
     * @return array<string, array<string, non-empty-array<int, float>>> by tell-tale, area ('' is the whole frame) and frame
     */
    public static function measures(array $looks, Recipe $recipe): array
    {
        ksort($looks);
        $sorted = [];
        foreach ($looks as $frame => $telltales) {
            foreach ($telltales as $name => $areas) {
                foreach ($areas as $id => $look) {
                    $sorted[$name][$id][$frame] = $look;
                }
            }
        }
        $all = [];
        foreach (Telltales::all() as $telltale) {
            $name = $telltale->name;
            foreach (isset($sorted[$name]) ? [null, ...$recipe->areas] : [] as $area) {
                $measures = $telltale->concerns($recipe, $area) ? $telltale->measures($sorted[$name], $recipe, $area) : [];
                if ($measures !== []) {
                    $all[$name][$area->id ?? ''] = $measures;
                }
            }
        }

        return $all;
    }

    /**
     * @param array<string, array<string, non-empty-array<int, float>>> $measures
     * @param array<string, float>                                      $limits   by tell-tale, where the user has set them
     *
     * @return list<Finding> of all that has a measure, ringing or not
     */
    public static function of(array $measures, Recipe $recipe, array $limits = []): array
    {
        $findings = [];
        foreach (Telltales::all() as $telltale) {
            $name = $telltale->name;
            foreach (isset($measures[$name]) ? [null, ...$recipe->areas] : [] as $area) {
                if (isset($measures[$name][$area->id ?? ''])) {
                    $findings[] = new Finding($telltale, $area, $measures[$name][$area->id ?? ''], $limits[$name] ?? $telltale->limit);
                }
            }
        }

        return $findings;
    }
}
