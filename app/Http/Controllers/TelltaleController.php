<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\LimitRequest;
use App\Http\Resources\TelltalesResource;
use App\Judging\Judgings;
use App\Models\Shot;
use App\Treatment\Recipes;
use Cossel\Core\Recipe\RecipeWriter;
use Cossel\Core\Telltale\Cure;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** The tell-tales of a shot: look for them, their limits, and what would cure one. */
final class TelltaleController
{
    public function __construct(private readonly Judgings $judgings) {}

    public function show(Shot $shot): TelltalesResource
    {
        return new TelltalesResource($shot, $this->judgings->present($shot));
    }

    public function store(Shot $shot): TelltalesResource
    {
        return new TelltalesResource($shot, $this->judgings->begin($shot));
    }

    public function limit(LimitRequest $request, Shot $shot): TelltalesResource
    {
        $limits = [...$shot->limits, $request->telltale() => $request->limit()];
        $shot->update(['limits' => array_filter($limits, static fn(?float $v): bool => $v !== null)]);

        return $this->show($shot);
    }

    public function cures(Request $request, Shot $shot, Recipes $recipes, RecipeWriter $writer): JsonResponse
    {
        $wanted = $request->validate(['telltale' => ['required', 'string'], 'area' => ['nullable', 'string']]);
        $cures = $this->judgings->cures($shot, $recipes->recipe($shot), $wanted['telltale'], $wanted['area'] ?? null);

        return new JsonResponse(array_map(static fn(Cure $cure): array => ['words' => $cure->words, 'recipe' => $cure->recipe === null ? null : $writer->write($cure->recipe), 'followFrom' => $cure->followFrom, 'measure' => $cure->measure], $cures));
    }
}
