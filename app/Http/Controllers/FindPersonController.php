<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Footage\FollowedFootage;
use App\Footage\FrameCache;
use App\Http\Requests\FindPersonRequest;
use App\Models\Shot;
use App\Treatment\FreshIds;
use App\Treatment\Recipes;
use Cossel\Core\Propose\Person;
use Cossel\Core\Recipe\Live;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\RecipeWriter;
use Illuminate\Http\JsonResponse;

/** Areas of a person, proposed from the landmarks the browser found. Nothing is changed: they are for the recipe to take. */
final class FindPersonController
{
    public function __invoke(FindPersonRequest $request, Shot $shot, Recipes $recipes, RecipeWriter $writer, FrameCache $frames): JsonResponse
    {
        $recipe = $recipes->recipe($shot);
        $ids = new FreshIds($writer->json($recipe));
        $footage = new FollowedFootage($frames, $shot->readyFootage()->file());
        $areas = Person::areas($footage, $request->face(), $request->frame(), new Live($shot->from, $shot->to), $request->validated('person'), $ids->of(...));

        return new JsonResponse(['areas' => $writer->write(new Recipe($recipe->source, areas: $areas))['areas']]);
    }
}
