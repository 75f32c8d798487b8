<?php

declare(strict_types=1);

namespace App\Treatment;

use App\Judging\Judgings;
use App\Judging\Ticks;
use App\Models\DeliveryState;
use App\Models\Shot;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Motion;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Telltale\Finding;

/** What has been done on a shot, area by area: the letters of the job's progress list. */
final class Progress
{
    private const STEPS = ['outline', 'follow', 'treat', 'judge'];

    public function __construct(private readonly Recipes $recipes, private readonly Judgings $judgings, private readonly Ticks $ticks) {}

    /** @return array{base: int, finish: int, areas: list<array<string, mixed>>, telltales: list<array<string, mixed>>, left: string, done: bool} */
    public function of(Shot $shot): array
    {
        $recipe = $this->recipes->recipe($shot);
        $judging = $this->judgings->present($shot);
        $findings = $judging?->measures === null ? [] : $this->judgings->findings($judging, $recipe);
        $open = array_values(array_filter($findings, static fn(Finding $finding): bool => $finding->rings()));
        $areas = self::areas($recipe, $this->ticks->holding($shot, $recipe));
        $left = self::left($areas, $recipe->base !== [], $open !== []);
        $isDelivered = $left === [] && ($shot->getAttribute('delivered_count') ?? $this->delivered($shot)) > 0;

        return [
            'base' => count($recipe->base),
            'finish' => count($recipe->finish),
            'areas' => $areas,
            'telltales' => array_map(static fn(Finding $finding): array => ['telltale' => $finding->telltale->name, 'area' => $finding->area?->id, 'frame' => $finding->worst()], $open),
            'left' => $left === [] ? ($isDelivered ? 'delivered' : 'ready to deliver') : implode(' · ', $left),
            'done' => $left === [],
        ];
    }

    /** Whether nothing is left to do; a shot whose recipe cannot be read is not done. */
    public function isDone(Shot $shot): bool
    {
        return rescue(fn(): bool => $this->of($shot)['done'], false);
    }

    /**
     * @param list<string> $judged ids of areas
     *
     * @return list<array<string, mixed>>
     */
    private static function areas(Recipe $recipe, array $judged): array
    {
        // Areas that others ride on or are made of need no touches of their own, and nobody has to judge them.
        $serving = array_merge(...array_map($recipe->needs(...), $recipe->areas));

        return array_map(static function (Area $area) use ($recipe, $judged, $serving): array {
            $serves = $recipe->touches($area) === [] && in_array($area->id, $serving, true);

            return [
                'id' => $area->id,
                'name' => $area->name,
                'person' => $area->person,
                'part' => $area->part,
                'on' => $area->on,
                'outline' => $area->outline->shapes !== [] || $area->pick !== null,
                'follow' => $area->motion->by === Motion::RIDE || $area->motion->track !== null || $area->motion->keys !== [],
                'pick' => $area->pick !== null,
                'treat' => $serves || $recipe->touches($area) !== [],
                'judge' => $serves || in_array($area->id, $judged, true),
            ];
        }, $recipe->areas);
    }

    /**
     * @param list<array<string, mixed>> $areas
     *
     * @return list<string>
     */
    private static function left(array $areas, bool $base, bool $rings): array
    {
        if ($areas === [] && !$base) {
            return ['not begun'];
        }
        $words = [];
        foreach (self::STEPS as $step) {
            $names = array_column(array_filter($areas, static fn(array $area): bool => !$area[$step]), 'name');
            if ($names !== []) {
                $words[] = $step . ' ' . implode(', ', $names);
            }
        }
        if ($rings) {
            $words[] = 'look at what gives it away';
        }

        return $words;
    }

    private function delivered(Shot $shot): int
    {
        return $shot->deliveries()->where('state', DeliveryState::Done)->where('revision', $shot->revision)->count();
    }
}
