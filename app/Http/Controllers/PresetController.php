<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\PresetRequest;
use App\Models\Job;
use App\Models\Preset;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Response;

/** Ways of delivering that a job keeps. */
final class PresetController
{
    public function index(Job $job): JsonResponse
    {
        return new JsonResponse($job->presets->map(self::told(...)));
    }

    /** One of the same name is replaced. */
    public function store(PresetRequest $request, Job $job): JsonResponse
    {
        return new JsonResponse(self::told($job->presets()->updateOrCreate(['name' => $request->title()], ['order' => $request->order()])));
    }

    public function destroy(Job $job, Preset $preset): Response
    {
        $preset->delete();

        return response()->noContent();
    }

    /** @return array<string, mixed> */
    private static function told(Preset $preset): array
    {
        return ['id' => $preset->id, 'title' => $preset->name, 'order' => $preset->order];
    }
}
