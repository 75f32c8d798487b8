<?php

declare(strict_types=1);

namespace App\Treatment;

use App\Models\Shot;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\AreaShape;
use Cossel\Core\Recipe\Motion;

/** What has been done on a shot, area by area: the letters of the job's progress list. */
final class Progress
{
    public function __construct(private readonly Recipes $recipes) {}

    /** @return array{base: int, finish: int, areas: list<array<string, mixed>>, left: string} */
    public function of(Shot $shot): array
    {
        $recipe = $this->recipes->recipe($shot);
        // Areas that others ride on or are made of need no touches of their own.
        $serving = [];
        foreach ($recipe->areas as $area) {
            $serving[] = $area->motion->on;
            foreach ($area->outline->shapes as $shape) {
                $serving[] = $shape instanceof AreaShape ? $shape->of : $shape->motion?->on;
            }
        }
        $areas = array_map(static fn(Area $area): array => [
            'id' => $area->id,
            'name' => $area->name,
            'person' => $area->person,
            'on' => $area->on,
            'outline' => $area->outline->shapes !== [] || $area->pick !== null,
            'follow' => $area->motion->by === Motion::RIDE || $area->motion->track !== null || $area->motion->keys !== [],
            'pick' => $area->pick !== null,
            'treat' => $recipe->touches($area) !== [] || in_array($area->id, $serving, true),
            'judge' => false,
        ], $recipe->areas);

        return ['base' => count($recipe->base), 'finish' => count($recipe->finish), 'areas' => $areas, 'left' => self::left($areas, $recipe->base !== [], $shot)];
    }

    /** @param list<array<string, mixed>> $areas */
    private static function left(array $areas, bool $base, Shot $shot): string
    {
        if ($areas === [] && !$base) {
            return 'not begun';
        }
        $words = [];
        foreach (['outline' => 'outline', 'follow' => 'follow', 'treat' => 'treat'] as $step => $verb) {
            $names = array_column(array_filter($areas, static fn(array $area): bool => !$area[$step]), 'name');
            if ($names !== []) {
                $words[] = $verb . ' ' . implode(', ', $names);
            }
        }
        if ($words !== []) {
            return implode(' · ', $words);
        }

        return $shot->deliveries()->where('state', 'done')->where('revision', $shot->revision)->exists() ? 'delivered' : 'ready to deliver';
    }
}
