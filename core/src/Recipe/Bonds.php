<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** What areas have to do with each other: what they ride on and are made of is there, goes in no circle, and not on for ever. */
final class Bonds
{
    /** Areas one behind the other that ride on each other, or are made of each other. */
    private const MOST = 24;

    /** @throws InvalidRecipe with the place of the bond */
    public static function check(Recipe $recipe): void
    {
        $rides = $made = [];
        foreach ($recipe->areas as $i => $area) {
            $rides[$area->id] = $made[$area->id] = [];
            if ($area->motion->on !== null) {
                $rides[$area->id]["/areas/{$i}/motion/on"] = $area->motion->on;
            }
            foreach ($area->outline->shapes as $k => $shape) {
                if ($shape instanceof AreaShape) {
                    $made[$area->id]["/areas/{$i}/outline/shapes/{$k}/of"] = $shape->of;
                } elseif ($shape->motion?->on !== null) {
                    self::checkKnown("/areas/{$i}/outline/shapes/{$k}/motion/on", $shape->motion->on, $recipe);
                }
            }
        }
        self::checkCircles($rides, 'no circle of areas riding on each other', $recipe);
        self::checkCircles($made, 'no circle of areas made of each other', $recipe);
    }

    /** @throws InvalidRecipe */
    public static function checkKnown(string $pointer, string $id, Recipe $recipe): void
    {
        if (!in_array($id, array_column($recipe->areas, 'id'), true)) {
            throw InvalidRecipe::at($pointer, 'the id of an area of this recipe', $id);
        }
    }

    /** @param array<string, array<string, string>> $bonds from each area, the others by where they are named */
    private static function checkCircles(array $bonds, string $expected, Recipe $recipe): void
    {
        foreach ($bonds as $id => $own) {
            foreach ($own as $pointer => $other) {
                self::checkKnown($pointer, $other, $recipe);
                if (self::leadsTo($other, (string) $id, $bonds)) {
                    throw InvalidRecipe::at($pointer, $expected, $other);
                }
            }
        }
        $known = [];
        foreach ($recipe->areas as $i => $area) {
            if (self::chain($area->id, $bonds, $known) > self::MOST) {
                throw InvalidRecipe::at("/areas/{$i}", sprintf('at most %d areas one behind the other', self::MOST), $area->id);
            }
        }
    }

    /** @param array<string, array<string, string>> $bonds */
    private static function leadsTo(string $from, string $to, array $bonds): bool
    {
        $seen = [];
        $open = [$from];
        while (($id = array_pop($open)) !== null) {
            if ($id === $to) {
                return true;
            }
            if (!isset($seen[$id])) {
                $seen[$id] = true;
                array_push($open, ...array_values($bonds[$id] ?? []));
            }
        }

        return false;
    }

    /**
     * How many areas stand one behind the other from an area on.
     *
     * @param array<string, array<string, string>> $bonds in no circle
     * @param array<string, int>                   $known
     */
    private static function chain(string $from, array $bonds, array &$known): int
    {
        if (!isset($known[$from])) {
            $known[$from] = 1;
            foreach ($bonds[$from] ?? [] as $other) {
                $known[$from] = max($known[$from], 1 + self::chain($other, $bonds, $known));
            }
        }

        return $known[$from];
    }
}
