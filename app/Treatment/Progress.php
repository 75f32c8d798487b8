<?php

declare(strict_types=1);

namespace App\Treatment;

use App\Judging\Judgings;
use App\Models\Shot;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\AreaShape;
use Cossel\Core\Recipe\Motion;
use Cossel\Core\Telltale\Finding;

/** What has been done on a shot, area by area: the letters of the job's progress list. */
final class Progress
{
    public function __construct(private readonly Recipes $recipes, private readonly Judgings $judgings) {}

    /** @return array{base: int, finish: int, areas: list<array<string, mixed>>, telltales: list<array<string, mixed>>, left: string} */
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
        $judging = $this->judgings->present($shot);
        $isJudged = $judging?->measures !== null;
        $open = $isJudged ? array_values(array_filter($this->judgings->findings($judging), static fn(Finding $finding): bool => $finding->rings())) : [];
        $areas = array_map(static fn(Area $area): array => [
            'id' => $area->id,
            'name' => $area->name,
            'person' => $area->person,
            'on' => $area->on,
            'outline' => $area->outline->shapes !== [] || $area->pick !== null,
            'follow' => $area->motion->by === Motion::RIDE || $area->motion->track !== null || $area->motion->keys !== [],
            'pick' => $area->pick !== null,
            'treat' => $recipe->touches($area) !== [] || in_array($area->id, $serving, true),
            'judge' => $isJudged && !in_array($area->id, array_map(static fn(Finding $finding): ?string => $finding->area?->id, $open), true),
        ], $recipe->areas);

        return [
            'base' => count($recipe->base),
            'finish' => count($recipe->finish),
            'areas' => $areas,
            'telltales' => array_map(static fn(Finding $finding): array => ['telltale' => $finding->telltale->name, 'area' => $finding->area?->id, 'frame' => $finding->worst()], $open),
            'left' => self::left($areas, $recipe->base !== [], $open !== [], $shot),
        ];
    }

    /** @param list<array<string, mixed>> $areas */
    private static function left(array $areas, bool $base, bool $rings, Shot $shot): string
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
        if ($rings) {
            $words[] = 'look at what gives it away';
        }
        if ($words !== []) {
            return implode(' · ', $words);
        }

        return $shot->deliveries()->where('state', 'done')->where('revision', $shot->revision)->exists() ? 'delivered' : 'ready to deliver';
    }
}
