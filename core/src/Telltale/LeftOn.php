<?php

declare(strict_types=1);

namespace Cossel\Core\Telltale;

use Cossel\Core\Recipe\Area;
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
        parent::__construct('left on', 'The treatment stays on while what it is for cannot be seen.', unit: '% of lightness', limit: 0.8, most: 10.0);
    }

    public function concerns(Recipe $recipe, ?Area $area): bool
    {
        return $area !== null && in_array($area->part, ['iris', 'teeth'], true);
    }

    public function look(Seen $seen): ?array
    {
        $isTeeth = $seen->area?->part === 'teeth';
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
        $closed = $area?->part === 'teeth' && $own !== [] ? self::HIDDEN * max(array_column($own, 0)) : self::CLOSED;

        return array_map(static fn(array $look): float => $look[1], array_filter($own, static fn(array $look): bool => $look[0] < $closed));
    }
}
