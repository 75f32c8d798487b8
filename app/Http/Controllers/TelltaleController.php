<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Judging\Judgings;
use App\Models\Judging;
use App\Models\Look;
use App\Models\Shot;
use App\Treatment\Recipes;
use Cossel\Core\Telltale\Cure;
use Cossel\Core\Telltale\Cures;
use Cossel\Core\Telltale\Finding;
use Cossel\Core\Telltale\Telltale;
use Cossel\Core\Telltale\Telltales;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Validation\Rule;

/** The tell-tales of a shot: look for them, their limits, and what would cure one. */
final class TelltaleController
{
    public function __construct(private readonly Judgings $judgings) {}

    public function show(Shot $shot): JsonResponse
    {
        return new JsonResponse($this->state($shot, $this->judgings->present($shot)));
    }

    public function store(Shot $shot): JsonResponse
    {
        return new JsonResponse($this->state($shot, $this->judgings->begin($shot)));
    }

    /** Sets how much of a tell-tale the shot may have; null for what the program thinks. */
    public function limit(Request $request, Shot $shot): JsonResponse
    {
        $telltales = array_column(array_map(static fn(Telltale $telltale): array => [$telltale->name, $telltale->most], Telltales::all()), 1, 0);
        $name = $request->validate(['telltale' => ['required', Rule::in(array_keys($telltales))]])['telltale'];
        $limit = $request->validate(['limit' => ['present', 'nullable', 'numeric', "between:0,{$telltales[$name]}"]])['limit'];
        $limits = [...$shot->limits(), $name => $limit === null ? null : (float) $limit];
        $shot->update(['limits' => json_encode((object) array_filter($limits, static fn(?float $v): bool => $v !== null), JSON_THROW_ON_ERROR)]);

        return $this->show($shot);
    }

    public function cures(Request $request, Shot $shot, Recipes $recipes): JsonResponse
    {
        $wanted = $request->validate(['telltale' => ['required', 'string'], 'area' => ['nullable', 'string']]);
        $judging = $this->judgings->present($shot);
        $cures = [];
        foreach ($judging === null ? [] : $this->judgings->findings($judging) as $finding) {
            if ($finding->telltale->name === $wanted['telltale'] && $finding->area?->id === ($wanted['area'] ?? null)) {
                $cures = Cures::of($finding, $recipes->recipe($shot));
            }
        }

        return new JsonResponse(array_map(static fn(Cure $cure): array => ['words' => $cure->words, 'recipe' => $cure->recipe, 'followFrom' => $cure->followFrom], $cures));
    }

    /** @return array<string, mixed> */
    private function state(Shot $shot, ?Judging $judging): array
    {
        return [
            'revision' => $shot->revision,
            'begun' => $judging !== null,
            'done' => (int) $judging?->looks->whereNotNull('looks')->sum(static fn(Look $look): int => $look->frames()),
            'total' => $shot->to - $shot->from + 1,
            'message' => $judging?->message,
            'findings' => $judging?->measures === null ? null : array_map(self::told(...), $this->judgings->findings($judging)),
        ];
    }

    /** @return array<string, mixed> */
    private static function told(Finding $finding): array
    {
        return [
            'telltale' => $finding->telltale->name,
            'sentence' => $finding->telltale->sentence,
            'unit' => $finding->telltale->unit,
            'area' => $finding->area?->id,
            'limit' => $finding->limit,
            'usual' => $finding->telltale->limit,
            'most' => $finding->telltale->most,
            'measure' => round($finding->measure(), 3),
            'worst' => $finding->worst(),
            'rings' => $finding->rings(),
            'spans' => $finding->spans(),
            'measures' => array_map(static fn(int $frame, float $measure): array => [$frame, round($measure, 3)], array_keys($finding->measures), $finding->measures),
        ];
    }
}
