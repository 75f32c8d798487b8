<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Follow;
use App\Models\Shot;
use App\Treatment\Recipes;
use App\Work\FollowArea;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

final class FollowController
{
    public function index(Shot $shot): JsonResponse
    {
        return new JsonResponse($shot->follows->slice(-12)->map(self::state(...))->values());
    }

    public function store(Request $request, Shot $shot, Recipes $recipes): JsonResponse
    {
        $frame = ['required', 'integer', "between:{$shot->from},{$shot->to}"];
        $wanted = $request->validate(['area' => ['required', 'string', 'max:64'], 'shape' => ['nullable', 'string', 'max:64'], 'start' => $frame, 'from' => [...$frame, 'lte:start'], 'to' => [...$frame, 'gte:start']]);
        $area = $recipes->recipe($shot)->area($wanted['area']);
        isset($wanted['shape']) && $area->outline->shape($wanted['shape']);
        abort_if($area->outline->shapes === [], 422, "{$area->name} has no outline to follow yet. Draw one first.");
        abort_if($shot->follows()->where('area', $area->id)->where('shape', $wanted['shape'] ?? null)->whereIn('state', [Follow::WAITING, Follow::FOLLOWING])->exists(), 409, "{$area->name} is being followed already.");
        $follow = $shot->follows()->create([...$wanted, 'state' => Follow::WAITING]);
        FollowArea::dispatch($follow->id);

        return new JsonResponse(self::state($follow->refresh()), 201);
    }

    public function stop(Follow $follow): JsonResponse
    {
        $follow->update(['stop' => true]);

        return new JsonResponse(self::state($follow));
    }

    /** @return array<string, mixed> */
    private static function state(Follow $follow): array
    {
        return [
            'id' => $follow->id,
            'area' => $follow->area,
            'shape' => $follow->shape,
            'state' => $follow->state,
            'start' => $follow->start,
            'from' => $follow->from,
            'to' => $follow->to,
            'steps' => json_decode($follow->steps),
            'message' => $follow->message,
        ];
    }
}
