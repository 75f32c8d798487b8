<?php

declare(strict_types=1);

namespace Cossel\Core\Telltale;

use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\BlinkGuard;
use Cossel\Core\Recipe\Ease;
use Cossel\Core\Recipe\Key;
use Cossel\Core\Recipe\Keyed;
use Cossel\Core\Recipe\Part;
use Cossel\Core\Recipe\Recipe;

/**
 * A treatment that stays on closed lids or lips: the mean change in Oklab over the matte, in hundredths of lightness, on
 * frames where the lids are open by less than .15; for teeth, where fewer pixels of the outline look like teeth than a
 * sixth of what does so on the frame with most of them, and only over those that do not.
 */
final readonly class LeftOn extends Telltale
{
    private const CLOSED = 0.15;
    private const HIDDEN = 1 / 6;

    public function __construct()
    {
        parent::__construct(
            'left on',
            'The treatment stays on while what it is for cannot be seen.',
            unit: '% of lightness',
            limit: 0.8,
            most: 10.0,
        );
    }

    public function concerns(Recipe $recipe, ?Area $area): bool
    {
        return $area?->is(Part::Iris, Part::Teeth) === true;
    }

    public function look(Seen $seen): ?array
    {
        $isTeeth = $seen->area?->is(Part::Teeth) === true;
        if (!$isTeeth && $seen->openness === null) {
            return null;
        }
        [$before, $change] = [$seen->before(), $seen->change()];
        $sum = $of = $teeth = 0.0;
        foreach ($seen->matte->v as $i => $k) {
            if ($k <= 0.02) {
                continue;
            }
            if ($isTeeth && Tooth::at($before, $i)) {
                $teeth += $k;
                continue;
            }
            $sum += $change[$i];
            $of += $k;
        }

        return [round($isTeeth ? $teeth / $seen->rows() ** 2 : (float) $seen->openness, 6), round(100 * $sum / max(1.0, $of), 4)];
    }

    public function measures(array $looks, Recipe $recipe, ?Area $area): array
    {
        $own = $area === null ? [] : $looks[$area->id] ?? [];
        $closed = $area?->is(Part::Teeth) === true && $own !== [] ? self::HIDDEN * max(array_column($own, 0)) : self::CLOSED;

        return array_map(static fn(array $look): float => $look[1], array_filter($own, static fn(array $look): bool => $look[0] < $closed));
    }

    public function cures(Finding $finding, Recipe $recipe): array
    {
        return $finding->area === null ? [] : [self::guarded($finding->area, $recipe), self::faded($finding, $finding->area, $recipe)];
    }

    private static function guarded(Area $area, Recipe $recipe): ?Cure
    {
        if (!$area->is(Part::Iris) || ($area->blinkGuard->on && $area->blinkGuard->keys === [])) {
            return null;
        }

        return Cure::byRecipe(
            $area->blinkGuard->on ? 'Leave it to the lids: take out the guard’s own keyframes' : 'Switch the blink guard on',
            $recipe->withArea($area->withBlinkGuard(new BlinkGuard(true))),
        );
    }

    private static function faded(Finding $finding, Area $area, Recipe $recipe): ?Cure
    {
        if ($area->strength->keys !== []) {
            return null;
        }
        $strength = $area->strength->value;
        $keys = [];
        foreach ($finding->spans() as [$from, $to]) {
            foreach ([[$from - 2, $strength], [$from - 1, 0.0], [$to + 1, 0.0], [$to + 2, $strength]] as [$frame, $value]) {
                if ($frame >= 0 && ($keys === [] || $frame > $keys[count($keys) - 1]->frame)) {
                    $keys[] = new Key($frame, $value, Ease::Smooth);
                }
            }
        }
        [$first, $last] = $finding->spans()[0];

        return Cure::byRecipe(
            "Fade it out over frames {$first} to {$last}" . (count($finding->spans()) > 1 ? ' and the others' : ''),
            $recipe->withArea($area->withStrength(new Keyed($strength, $keys))),
        );
    }
}
