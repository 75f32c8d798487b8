<?php

declare(strict_types=1);

namespace Cossel\Core\Carry;

use Cossel\Core\Outline\AreaExtent;
use Cossel\Core\Outline\Poses;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Part;
use Cossel\Core\Recipe\Recipe;

/** Which part of a person an area is, told from the other one of a pair. */
final class Place
{
    private const PAIRED = [Part::Iris, Part::Eye, Part::Lids, Part::Whites, Part::UnderEye, Part::Cheek, Part::Brow];

    /**
     * @param list<Area> $all the areas it is among
     *
     * @return string|null such as "iris left": the person's own left; null for what is no known part, or one that is there twice
     */
    public static function of(Area $area, array $all): ?string
    {
        $part = Part::tryFrom($area->part);
        if ($part === null) {
            return null;
        }
        $isAlike = static fn(Area $other): bool => $other->part === $area->part && $other->person === $area->person;
        $alike = array_values(array_filter($all, $isAlike));
        if (!in_array($part, self::PAIRED, true)) {
            return $alike[0] === $area ? $part->value : null;
        }
        $named = preg_match('/\b(left|right)\b/i', $area->name, $m) === 1 ? strtolower($m[1]) : null;
        if ($named === null && count($alike) === 2) {
            // Seen from in front, the person's left is on the right.
            $other = $alike[0] === $area ? $alike[1] : $alike[0];
            $named = $area->motion->pivot[0] > $other->motion->pivot[0] ? 'left' : 'right';
        }
        foreach ($named === null ? [] : $alike as $first) {
            if ($first === $area || stripos($first->name, $named) !== false) {
                return $first === $area ? "{$part->value} {$named}" : null;
            }
        }

        return null;
    }

    /**
     * A place and what does its duty where it is not seen: skin is outlined as a face, or as what is round the eyes.
     *
     * @return non-empty-list<string>
     */
    public static function like(string $place): array
    {
        return match ($place) {
            Part::Face->value => [Part::Face->value, Part::Skin->value],
            Part::Skin->value => [Part::Skin->value, Part::Face->value],
            default => [$place],
        };
    }

    /**
     * Where the parts of a person are on a frame.
     *
     * @return array<string, array{float, float}> middles by place, picture heights
     */
    public static function all(Recipe $recipe, ?string $person, Poses $poses, int $frame): array
    {
        $own = array_values(array_filter($recipe->areas, static fn(Area $area): bool => $area->person === $person));
        $middles = [];
        foreach ($own as $area) {
            $place = $area->outline->shapes === [] ? null : self::of($area, $own);
            if ($place !== null) {
                $extent = AreaExtent::of($area, $frame, $poses);
                $middles[$place] = $extent->centre();
                if ($area->is(Part::Face)) {
                    // A face alone tells the size, too.
                    [$x, $y] = $extent->centre();
                    [$dx, $dy] = $extent->shift(0.0, $extent->halfHeight);
                    $middles["{$place} chin"] = [$x + $dx, $y + $dy];
                }
            }
        }

        return $middles;
    }
}
