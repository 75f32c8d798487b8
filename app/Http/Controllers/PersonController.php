<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Footage\FollowedFootage;
use App\Footage\FrameCache;
use App\Models\Shot;
use App\Treatment\FreshIds;
use App\Treatment\Recipes;
use Cossel\Core\Propose\Landmarks;
use Cossel\Core\Propose\Person;
use Cossel\Core\Recipe\Live;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\RecipeWriter;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** Areas of a person, proposed from the landmarks the browser found. Nothing is changed: they are for the recipe to take. */
final class PersonController
{
    public function __invoke(Request $request, Shot $shot, Recipes $recipes, RecipeWriter $writer, FrameCache $frames): JsonResponse
    {
        $footage = $shot->readyFootage();
        $wanted = $request->validate([
            'frame' => ['required', 'integer', "between:{$shot->from},{$shot->to}"],
            'person' => ['nullable', 'string', 'max:64'],
            'landmarks' => ['required', 'array', 'size:' . Landmarks::COUNT],
            'landmarks.*' => ['array', 'size:2'],
            'landmarks.*.*' => ['numeric', 'between:-20,20'],
        ]);
        $recipe = $recipes->recipe($shot);
        $ids = new FreshIds($writer->json($recipe));
        $face = Landmarks::of(array_map(static fn(array $p): array => [(float) $p[0], (float) $p[1]], array_values($wanted['landmarks'])));
        $areas = Person::areas(new FollowedFootage($frames, $footage->file()), $face, $wanted['frame'], new Live($shot->from, $shot->to), $wanted['person'] ?? null, $ids->of(...));

        return new JsonResponse(['areas' => $writer->write(new Recipe($recipe->source, areas: $areas))['areas']]);
    }
}
