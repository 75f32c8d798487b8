<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Following\Follows;
use App\Http\Requests\FollowPersonRequest;
use App\Http\Requests\FollowRequest;
use App\Http\Resources\FollowResource;
use App\Models\Follow;
use App\Models\Shot;
use Illuminate\Http\Resources\Json\AnonymousResourceCollection;

final class FollowController
{
    /** The newest that are told of. */
    private const TOLD = 24;

    public function index(Shot $shot): AnonymousResourceCollection
    {
        return FollowResource::collection($shot->follows()->reorder('id', 'desc')->limit(self::TOLD)->get()->reverse()->values());
    }

    public function store(FollowRequest $request, Shot $shot, Follows $follows): FollowResource
    {
        return new FollowResource($follows->begin($shot, $request->validated()));
    }

    /** A head and what is on it, at once. */
    public function person(FollowPersonRequest $request, Shot $shot, Follows $follows): AnonymousResourceCollection
    {
        $wanted = $request->validated();

        return FollowResource::collection($follows->person($shot, $wanted['area'], (int) $wanted['start'], (int) $wanted['from'], (int) $wanted['to']));
    }

    public function stop(Follow $follow, Follows $follows): FollowResource
    {
        return new FollowResource($follows->stop($follow));
    }
}
