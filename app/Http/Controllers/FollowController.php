<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Following\Follows;
use App\Http\Requests\FollowRequest;
use App\Http\Resources\FollowResource;
use App\Models\Follow;
use App\Models\Shot;
use Illuminate\Http\Resources\Json\AnonymousResourceCollection;

final class FollowController
{
    /** The newest that are told of. */
    private const TOLD = 12;

    public function index(Shot $shot): AnonymousResourceCollection
    {
        return FollowResource::collection($shot->follows()->reorder('id', 'desc')->limit(self::TOLD)->get()->reverse()->values());
    }

    public function store(FollowRequest $request, Shot $shot, Follows $follows): FollowResource
    {
        return new FollowResource($follows->begin($shot, $request->validated()));
    }

    public function stop(Follow $follow): FollowResource
    {
        $follow->update(['stop' => true]);

        return new FollowResource($follow);
    }
}
