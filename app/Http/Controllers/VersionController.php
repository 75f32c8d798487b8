<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\MoveRequest;
use App\Http\Requests\VersionRequest;
use App\Http\Resources\RecipeResource;
use App\Http\Resources\VersionResource;
use App\Models\Shot;
use App\Models\Version;
use App\Treatment\Recipes;
use Illuminate\Http\Resources\Json\AnonymousResourceCollection;
use Illuminate\Http\Response;

/** The kept versions of a shot: save, name, restore, delete. Pictures of them are asked for by their revision. */
final class VersionController
{
    public function index(Shot $shot): AnonymousResourceCollection
    {
        return VersionResource::collection($shot->versions);
    }

    public function store(VersionRequest $request, Shot $shot): VersionResource
    {
        return new VersionResource($shot->versions()->create(['name' => $request->validated('name'), 'number' => $shot->revision]));
    }

    public function update(VersionRequest $request, Shot $shot, Version $version): VersionResource
    {
        $version->update(['name' => $request->validated('name')]);

        return new VersionResource($version);
    }

    public function destroy(Shot $shot, Version $version): Response
    {
        $version->delete();

        return response()->noContent();
    }

    public function restore(MoveRequest $request, Shot $shot, Version $version, Recipes $recipes): RecipeResource
    {
        return new RecipeResource($shot, $recipes->restore($shot, $request->base(), $version->number, "Back to {$version->name}"));
    }
}
