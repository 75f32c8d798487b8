<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\MoveRequest;
use App\Http\Resources\RecipeResource;
use App\Http\Resources\RevisionResource;
use App\Models\Shot;
use App\Treatment\Recipes;
use Illuminate\Http\Request;
use Illuminate\Http\Resources\Json\AnonymousResourceCollection;

/** All that was ever done to a shot, newest first. Pictures of an earlier revision are asked for like any others. */
final class HistoryController
{
    private const PAGE = 100;

    public function index(Request $request, Shot $shot): AnonymousResourceCollection
    {
        $before = $request->integer('before', PHP_INT_MAX);

        return RevisionResource::collection($shot->revisions()->where('number', '<', $before)->orderByDesc('number')->limit(self::PAGE)->get(['number', 'parent', 'label', 'created_at']));
    }

    public function restore(MoveRequest $request, Shot $shot, int $revision, Recipes $recipes): RecipeResource
    {
        $label = $recipes->label($shot, $revision);

        return new RecipeResource($shot, $recipes->restore($shot, $request->base(), $revision, "Back to {$revision}, {$label}"));
    }
}
