<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\MoveRequest;
use App\Http\Requests\SaveRecipeRequest;
use App\Http\Resources\KindResource;
use App\Http\Resources\RecipeResource;
use App\Models\Revision;
use App\Models\Shot;
use App\Treatment\AreaPlaces;
use App\Treatment\Recipes;
use Cossel\Core\Touch\Kinds;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Resources\Json\AnonymousResourceCollection;

/** The recipe of a shot: reading, editing, undo and redo, and where its areas are. */
final class RecipeController
{
    public function __construct(private readonly Recipes $recipes) {}

    public function show(Shot $shot): RecipeResource
    {
        $shot->readyFootage();

        return $this->answer($shot, $this->recipes->present($shot));
    }

    public function update(SaveRecipeRequest $request, Shot $shot): RecipeResource
    {
        return $this->answer($shot, $this->recipes->save($shot, $request->base(), $request->json('recipe'), $request->label()));
    }

    public function undo(MoveRequest $request, Shot $shot): RecipeResource
    {
        return $this->answer($shot, $this->recipes->undo($shot, $request->base()));
    }

    public function redo(MoveRequest $request, Shot $shot): RecipeResource
    {
        return $this->answer($shot, $this->recipes->redo($shot, $request->base()));
    }

    public function motions(Shot $shot, AreaPlaces $places): JsonResponse
    {
        return new JsonResponse($places->of($shot));
    }

    /** The kinds of touch there are and what they can be set to. */
    public function kinds(Kinds $kinds): AnonymousResourceCollection
    {
        return KindResource::collection($kinds->list());
    }

    private function answer(Shot $shot, Revision $revision): RecipeResource
    {
        return new RecipeResource($shot, $revision);
    }
}
