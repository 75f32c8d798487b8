<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\ChangeShotRequest;
use App\Http\Resources\RecipeResource;
use App\Http\Resources\ShotResource;
use App\Judging\Ticks;
use App\Models\Shot;
use App\Treatment\Recipes;
use App\Treatment\Removal;
use Illuminate\Http\Response;

final class ShotController
{
    public function show(Shot $shot): ShotResource
    {
        return new ShotResource($shot);
    }

    public function update(ChangeShotRequest $request, Shot $shot): ShotResource
    {
        $shot->update($request->change());

        return new ShotResource($shot);
    }

    public function destroy(Shot $shot, Removal $removal): Response
    {
        $removal->shot($shot);

        return response()->noContent();
    }

    /** Somebody says that a part is judged. */
    public function tick(Shot $shot, string $area, Recipes $recipes, Ticks $ticks): RecipeResource
    {
        $ticks->set($shot, $recipes->recipe($shot), $area);

        return new RecipeResource($shot, $recipes->present($shot));
    }

    public function untick(Shot $shot, string $area, Recipes $recipes, Ticks $ticks): RecipeResource
    {
        $ticks->remove($shot, $area);

        return new RecipeResource($shot, $recipes->present($shot));
    }
}
