<?php

declare(strict_types=1);

namespace App\Judging;

use App\Models\Shot;
use App\Models\Tick;
use App\Treatment\Renderers;
use Cossel\Core\Judge\Influence;
use Cossel\Core\Recipe\Recipe;

/** Which parts of a shot somebody has judged: a tick holds until something is changed that is seen in the area. */
final class Ticks
{
    public function __construct(private readonly Renderers $renderers) {}

    public function set(Shot $shot, Recipe $recipe, string $area): void
    {
        $recipe->area($area);
        $shot->ticks()->updateOrCreate(['area' => $area], ['digest' => Influence::digest($recipe, $area, $this->renderers->motions($recipe))]);
    }

    public function remove(Shot $shot, string $area): void
    {
        $shot->ticks()->where('area', $area)->delete();
    }

    /** @return list<string> ids of areas whose tick holds for this recipe */
    public function holding(Shot $shot, Recipe $recipe): array
    {
        $ticks = $shot->relationLoaded('ticks') ? $shot->ticks : $shot->ticks()->get();
        if ($ticks->isEmpty()) {
            return [];
        }
        $motions = $this->renderers->motions($recipe);
        $there = array_column($recipe->areas, 'id');

        return $ticks->filter(static fn(Tick $tick): bool => in_array($tick->area, $there, true) && $tick->digest === Influence::digest($recipe, $tick->area, $motions))->pluck('area')->values()->all();
    }
}
