<?php

declare(strict_types=1);

namespace Cossel\Core\Carry;

use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Recipe;

/** Areas of two shots that are the same part of the same person, or bear the same name. */
final class Alike
{
    /**
     * @return list<array{Area, Area}> of the one shot, and of the other
     */
    public static function pairs(Recipe $here, Recipe $there): array
    {
        $pairs = [];
        foreach ($here->areas as $area) {
            $other = $area->outline->shapes === [] ? null : self::other($area, $here, $there);
            if ($other !== null) {
                $pairs[] = [$area, $other];
            }
        }

        return $pairs;
    }

    private static function other(Area $area, Recipe $here, Recipe $there): ?Area
    {
        $own = static fn(Recipe $recipe): array => array_values(
            array_filter($recipe->areas, static fn(Area $a): bool => $a->person === $area->person && $a->outline->shapes !== []),
        );
        $place = Place::of($area, $own($here));
        foreach ($place === null ? [] : Place::like($place) as $wanted) {
            foreach ($own($there) as $other) {
                if (Place::of($other, $own($there)) === $wanted) {
                    return $other;
                }
            }
        }
        foreach ($place === null ? $own($there) : [] as $other) {
            if ($other->name === $area->name && $other->part === $area->part) {
                return $other;
            }
        }

        return null;
    }
}
