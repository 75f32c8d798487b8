<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Faces\Faces;
use App\Footage\Intake;
use App\Footage\Uploads;
use App\Http\Requests\ChangeShotRequest;
use App\Http\Resources\RecipeResource;
use App\Http\Resources\ShotResource;
use App\Judging\Ticks;
use App\Models\Shot;
use App\Treatment\Recipes;
use App\Treatment\Removal;
use App\Work\MeasureFaces;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\DB;

final class ShotController
{
    public function show(Shot $shot, Faces $faces): ShotResource
    {
        MeasureFaces::ofOpened($shot, $faces);

        return new ShotResource($shot);
    }

    public function update(ChangeShotRequest $request, Shot $shot): ShotResource
    {
        DB::transaction(static fn() => $shot->refresh()->update($request->change($shot->notes)));

        return new ShotResource($shot);
    }

    /** Takes footage that is not whole as it is. */
    public function accept(Shot $shot, Uploads $uploads, Intake $intake): ShotResource
    {
        $uploads->accept($shot, $intake);

        return new ShotResource($shot->refresh());
    }

    /** Reads its file once more, where that broke off. */
    public function read(Shot $shot, Uploads $uploads): ShotResource
    {
        $uploads->again($shot);

        return new ShotResource($shot->refresh());
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
