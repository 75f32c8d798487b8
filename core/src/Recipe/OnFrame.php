<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/**
 * A recipe as far as it matters to the picture of one frame: values that change over the shot as they are there, and
 * nothing of what does not act there. Two recipes that come to the same give the same picture of that frame.
 */
final class OnFrame
{
    /** A digest of what acts on the frame. */
    public static function digest(Recipe $recipe, int $frame): string
    {
        $used = self::used($recipe, $frame);
        $areas = array_values(array_filter($recipe->areas, static fn(Area $area): bool => isset($used[$area->id])));
        $kept = new Recipe(
            $recipe->source,
            $recipe->assets,
            self::touches($recipe->base, $frame),
            array_map(static function (Area $area) use ($recipe, $frame): Area {
                $strength = self::strength($area, $frame);

                return self::area($area, $strength, $strength > 0.0 ? self::touches($recipe->touches($area), $frame) : [], $frame);
            }, $areas),
            self::touches($recipe->finish, $frame),
        );

        return hash('xxh128', (new RecipeWriter())->json($kept));
    }

    /** A digest of what an area's matte comes from there: outlines and motions, its own and those it is made of or rides on; its pick. */
    public static function place(Recipe $recipe, Area $area, int $frame): string
    {
        $used = [];
        self::take($area, $recipe, $used);
        $areas = [];
        foreach ($recipe->areas as $other) {
            if (isset($used[$other->id])) {
                $areas[] = self::area($other, 1.0, [], $frame)
                    ->withBlinkGuard(new BlinkGuard())
                    ->withPick($other->id === $area->id ? $area->pick : null);
            }
        }

        return hash('xxh128', (new RecipeWriter())->json(new Recipe($recipe->source, areas: $areas)));
    }

    /** @return array<string, true> ids of areas that act, and of those they are made of or ride on */
    private static function used(Recipe $recipe, int $frame): array
    {
        $used = [];
        foreach ($recipe->areas as $area) {
            if (self::strength($area, $frame) > 0.0 && self::touches($recipe->touches($area), $frame) !== []) {
                self::take($area, $recipe, $used);
            }
        }

        return $used;
    }

    /** @param array<string, true> $used */
    private static function take(Area $area, Recipe $recipe, array &$used): void
    {
        if (isset($used[$area->id])) {
            return;
        }
        $used[$area->id] = true;
        foreach ($recipe->needs($area) as $other) {
            self::take($recipe->area($other), $recipe, $used);
        }
    }

    private static function strength(Area $area, int $frame): float
    {
        return $area->on ? $area->live->weight($frame) * $area->strength->at($frame) : 0.0;
    }

    /**
     * Its name, its person and its part say nothing to the picture; its motion stays whole, since other frames tell where it is on
     * this one.
     *
     * @param list<Touch> $touches
     */
    private static function area(Area $area, float $strength, array $touches, int $frame): Area
    {
        return new Area(
            $area->id,
            '',
            '',
            null,
            true,
            new Outline(
                $area->outline->at,
                array_map(static fn(Shape $shape): Shape => $shape->at($frame), $area->outline->shapes),
                $area->outline->invert,
            ),
            $area->motion,
            new Live($frame, $frame),
            new Keyed($strength),
            $area->blinkGuard,
            $touches,
            $area->pick,
        );
    }

    /**
     * @param list<Touch> $touches
     *
     * @return list<Touch> those that act, as they do there
     */
    private static function touches(array $touches, int $frame): array
    {
        $acting = [];
        foreach ($touches as $touch) {
            $amount = $touch->on ? $touch->amount->at($frame) : 0.0;
            if ($amount > 0.0) {
                $values = array_map(static fn(mixed $v): mixed => is_float($v) ? new Keyed($v) : $v, $touch->values($frame));
                $acting[] = new Touch($touch->id, $touch->kind, $values, $touch->side, true, new Keyed($amount));
            }
        }

        return $acting;
    }
}
