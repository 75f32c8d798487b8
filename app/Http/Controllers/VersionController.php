<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Shot;
use App\Models\Version;
use App\Treatment\Recipes;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Validation\Rule;

/** The kept versions of a shot: save, name, restore, delete. Pictures of them are asked for like any others. */
final class VersionController
{
    public function index(Shot $shot): JsonResponse
    {
        return new JsonResponse($shot->versions->map(self::told(...))->values());
    }

    public function store(Request $request, Shot $shot): JsonResponse
    {
        $shot->readyFootage();
        $version = $shot->versions()->create(['name' => self::name($request, $shot), 'number' => $shot->revision]);

        return new JsonResponse(self::told($version), 201);
    }

    public function update(Request $request, Shot $shot, Version $version): JsonResponse
    {
        $version->update(['name' => self::name($request, $shot, $version)]);

        return new JsonResponse(self::told($version));
    }

    public function destroy(Shot $shot, Version $version): Response
    {
        $version->delete();

        return new Response(status: 204);
    }

    /** Makes its recipe the present one again, as a new revision: what was there before can be undone to. */
    public function restore(Shot $shot, Version $version, Recipes $recipes): JsonResponse
    {
        $recipes->edit($shot, static fn(): array => $recipes->revision($shot, $version->number)->document(), "Back to {$version->name}");

        return new JsonResponse(['revision' => $shot->refresh()->revision]);
    }

    private static function name(Request $request, Shot $shot, ?Version $but = null): string
    {
        return $request->validate(['name' => ['required', 'string', 'max:60', Rule::unique('versions')->where('shot_id', $shot->id)->ignore($but)]], ['name.unique' => 'There is a version of this name already.'])['name'];
    }

    /** @return array<string, mixed> */
    private static function told(Version $version): array
    {
        return ['id' => $version->id, 'name' => $version->name, 'revision' => $version->number, 'createdAt' => $version->created_at->toIso8601String()];
    }
}
