<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Carrying\AnotherShot;
use App\Http\Requests\AnotherShotRequest;
use App\Models\Shot;
use App\Treatment\Recipes;
use Cossel\Core\Recipe\RecipeWriter;
use Illuminate\Http\JsonResponse;

/** A shot beside another one of its job. Nothing is changed: what brings it there is for the recipe to take. */
final class AnotherShotController
{
    public function __construct(private readonly AnotherShot $another, private readonly Recipes $recipes) {}

    public function compare(AnotherShotRequest $request, Shot $shot): JsonResponse
    {
        return new JsonResponse($this->another->compared($shot, $request->recipe($this->recipes), $request->frame(), $request->other(), $request->otherFrame()));
    }

    public function match(AnotherShotRequest $request, Shot $shot, RecipeWriter $writer): JsonResponse
    {
        $matched = $this->another->matched($shot, $request->recipe($this->recipes), $request->frame(), $request->other(), $request->otherFrame(), $request->areas(), $request->boolean('base'));
        $misses = array_map(static fn(string $id, array $miss): array => ['area' => $id, 'before' => round($miss[0], 2), 'after' => round($miss[1], 2)], array_keys($matched->misses), $matched->misses);

        return new JsonResponse(['recipe' => $writer->write($matched->recipe), 'misses' => $misses]);
    }
}
