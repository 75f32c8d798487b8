<?php

declare(strict_types=1);

namespace Cossel\Core\Telltale;

use Cossel\Core\Picture\Robust;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Part;
use Cossel\Core\Recipe\Recipe;

/**
 * Two that belong together and no longer do: the irises of one person, or their face and neck. By how much the distance of
 * their mean colours in Oklab has grown from the untreated to the finished frame, in hundredths.
 */
final readonly class Mismatch extends Telltale
{
    private const FEW = 20;
    /** The parts that belong to each. */

    public function __construct()
    {
        parent::__construct(
            'mismatch',
            'Left and right eye, or face and neck, are further apart than they were untreated.',
            unit: '% of lightness',
            limit: 3.0,
            most: 30.0,
        );
    }

    public function concerns(Recipe $recipe, ?Area $area): bool
    {
        return $area !== null && self::partner($recipe, $area) !== null;
    }

    public function look(Seen $seen): ?array
    {
        if (($seen->openness ?? 1.0) < 0.5) {
            return null;
        }
        $w = $seen->matte->v;
        if (count(array_filter($w, static fn(float $k): bool => $k >= 0.5)) < self::FEW) {
            return null;
        }
        $means = [];
        foreach ([$seen->untreated(), $seen->result()] as $lab) {
            foreach ([$lab->l, $lab->a, $lab->b] as $v) {
                $means[] = round(Robust::of($v, $w)[0], 5);
            }
        }

        return $means;
    }

    public function measures(array $looks, Recipe $recipe, ?Area $area): array
    {
        $partner = $area === null ? null : self::partner($recipe, $area);
        // Told once, of the later one.
        if ($partner === null || array_search($area, $recipe->areas, true) < array_search($partner, $recipe->areas, true)) {
            return [];
        }
        $measures = [];
        foreach ($looks[$area->id] ?? [] as $frame => $own) {
            $other = $looks[$partner->id][$frame] ?? null;
            if ($other !== null) {
                [$was, $is] = array_map(static fn(int $i): float => sqrt(
                    ($own[$i] - $other[$i]) ** 2 + ($own[$i + 1] - $other[$i + 1]) ** 2 + ($own[$i + 2] - $other[$i + 2]) ** 2,
                ), [0, 3]);
                $measures[$frame] = 100 * max(0.0, $is - $was);
            }
        }

        return $measures;
    }

    /** The area it belongs to: the one it is paired with, or of the same person one that belongs to it by its part. */
    public static function partner(Recipe $recipe, Area $area): ?Area
    {
        foreach ($recipe->areas as $other) {
            $paired = $area->pair?->with === $other->id || $other->pair?->with === $area->id;
            if (
                $other->id !== $area->id
                && ($paired || ($area->person !== null && $other->person === $area->person && $other->is(...self::belonging($area))))
            ) {
                return $other;
            }
        }

        return null;
    }

    public function cures(Finding $finding, Recipe $recipe): array
    {
        return [self::linked($finding, $recipe) ?? Cure::weaker($finding, $recipe)];
    }

    private static function linked(Finding $finding, Recipe $recipe): ?Cure
    {
        $pair = $finding->area?->pair;
        if ($finding->area === null || $pair === null || $pair->linked) {
            return null;
        }

        return Cure::byRecipe("Treat it as {$recipe->area($pair->with)->name}", $recipe->withArea($finding->area->linked()));
    }

    /** @return list<Part> what belongs to an area of that part */
    private static function belonging(Area $area): array
    {
        return match (Part::tryFrom($area->part)) {
            Part::Iris => [Part::Iris],
            Part::Face, Part::Skin => [Part::Neck],
            Part::Neck => [Part::Face, Part::Skin],
            default => [],
        };
    }
}
