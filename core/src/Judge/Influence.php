<?php

declare(strict_types=1);

namespace Cossel\Core\Judge;

use Cossel\Core\Outline\AreaMatte;
use Cossel\Core\Outline\Poses;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\RecipeWriter;
use Cossel\Core\Recipe\Side;
use Cossel\Core\Recipe\Touch;

/**
 * What the picture inside an area depends on: base and finish, the area itself with those it rides on or is made of, and
 * other areas whose touches reach into it on some frame. A judgement of the area holds as long as this stays the same.
 */
final class Influence
{
    /** Frames looked at for whether two areas meet, spread over the span. */
    private const FRAMES = 25;
    /** Rows of the picture they are laid out on. */
    private const ROWS = 180;
    /** Neighbourhoods (blur, glow, grain) carry a touch a little beyond its matte: rows of the above. */
    private const CARRY = 6;

    /** A digest of it all; two recipes with the same digest show the same inside the area. */
    public static function digest(Recipe $recipe, string $id, Poses $poses): string
    {
        $own = $recipe->area($id);
        $kept = [$id => true];
        foreach ($recipe->areas as $area) {
            if ($area->id !== $id && self::reaches($recipe, $area, $own, $poses)) {
                $kept[$area->id] = true;
            }
        }
        $acting = $kept;
        $take = static function (string $id) use (&$take, &$kept, $recipe): void {
            foreach ($recipe->needs($recipe->area($id)) as $other) {
                if (!isset($kept[$other])) {
                    $kept[$other] = true;
                    $take($other);
                }
            }
        };
        array_map($take, array_keys($kept));
        $areas = [];
        foreach ($recipe->areas as $area) {
            if (isset($kept[$area->id])) {
                $areas[] = self::nameless($area, isset($acting[$area->id]) ? $recipe->touches($area) : []);
            }
        }

        return hash(
            'xxh128',
            (new RecipeWriter())->json(new Recipe($recipe->source, $recipe->assets, $recipe->base, $areas, $recipe->finish)),
        );
    }

    private static function reaches(Recipe $recipe, Area $area, Area $own, Poses $poses): bool
    {
        $touches = array_filter($recipe->touches($area), static fn(Touch $touch): bool => $touch->on);
        if (!$area->on || $touches === []) {
            return false;
        }
        foreach ($touches as $touch) {
            if ($touch->side === Side::Outside) {
                return true;
            }
        }
        [$from, $to] = $recipe->source->span;
        $whole = Rect::of(0, 0, max(1, (int) round(self::ROWS * $recipe->source->size[0] / $recipe->source->size[1])), self::ROWS);
        $step = max(1, intdiv($to - $from, self::FRAMES - 1));
        for ($frame = $from; $frame <= $to; $frame += $step) {
            $bounds = static fn(Area $of): Rect => AreaMatte::on($of, $frame, $poses, $whole)->bounds();
            if ($area->live->weight($frame) > 0.0 && !$bounds($area)->grow(self::CARRY)->intersect($bounds($own))->isEmpty()) {
                return true;
            }
        }

        return false;
    }

    /**
     * Its name, its person and its part say nothing to the picture.
     *
     * @param list<Touch> $touches
     */
    private static function nameless(Area $area, array $touches): Area
    {
        return new Area(
            $area->id,
            '',
            '',
            null,
            $area->on,
            $area->outline,
            $area->motion,
            $area->live,
            $area->strength,
            $area->blinkGuard,
            $touches,
            $area->pick,
        );
    }
}
