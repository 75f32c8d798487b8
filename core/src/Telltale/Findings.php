<?php

declare(strict_types=1);

namespace Cossel\Core\Telltale;

use Cossel\Core\Recipe\Area;
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
        $sorted = self::sorted($looks);

        return self::each($sorted, $recipe, static function (Telltale $telltale, ?Area $area) use ($sorted, $recipe): ?array {
            $isConcerned = $telltale->concerns($recipe, $area);

            return $isConcerned ? $telltale->measures($sorted[$telltale->name], $recipe, $area) : null;
        });
    }

    /**
     * What the footage has of tell-tales untreated.
     *
     * @param array<int, array<string, array<string, list<float>>>> $looks by frame
     *
     * @return array<string, array<string, string>> sentences by tell-tale and area
     */
    public static function before(array $looks, Recipe $recipe): array
    {
        $sorted = self::sorted($looks);

        return self::each($sorted, $recipe, static function (Telltale $telltale, ?Area $area) use ($sorted, $recipe): ?string {
            return $telltale->before($sorted[$telltale->name], $recipe, $area);
        });
    }

    /**
     * @param array<string, array<string, non-empty-array<int, float>>> $measures
     * @param array<string, float>                                      $limits   by tell-tale, where the user has set them
     * @param array<string, array<string, string>>                      $before   as {@see before} gives it
     *
     * @return list<Finding> of all that has a measure, ringing or not
     */
    public static function of(array $measures, Recipe $recipe, array $limits = [], array $before = []): array
    {
        $findings = self::each($measures, $recipe, static function (Telltale $telltale, ?Area $area) use (
            $measures,
            $limits,
            $before,
        ): ?Finding {
            [$name, $id] = [$telltale->name, $area->id ?? ''];
            $of = $measures[$name][$id] ?? null;

            $limit = $limits[$name] ?? $telltale->limit;

            return $of === null ? null : new Finding($telltale, $area, $of, $limit, $before[$name][$id] ?? null);
        });

        return array_merge(...array_map(array_values(...), array_values($findings)));
    }

    /**
     * @param array<int, array<string, array<string, list<float>>>> $looks by frame
     *
     * @return array<string, array<string, array<int, list<float>>>> by tell-tale, area and frame
     */
    private static function sorted(array $looks): array
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

        return $sorted;
    }

    /**
     * @template T
     *
     * @param array<string, mixed>                 $there by tell-tale: those that have something to say
     * @param callable(Telltale, Area|null): (T|null) $of
     *
     * @return array<string, array<string, T>> by tell-tale and area, without what is null or empty
     */
    private static function each(array $there, Recipe $recipe, callable $of): array
    {
        $all = [];
        foreach (Telltales::all() as $telltale) {
            foreach (isset($there[$telltale->name]) ? [null, ...$recipe->areas] : [] as $area) {
                $one = $of($telltale, $area);
                if ($one !== null && $one !== []) {
                    $all[$telltale->name][$area->id ?? ''] = $one;
                }
            }
        }

        return $all;
    }
}
