<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\FrameNoteRequest;
use App\Http\Resources\FrameNoteResource;
use App\Models\FrameNote;
use App\Models\Shot;
use Illuminate\Http\Resources\Json\AnonymousResourceCollection;
use Illuminate\Http\Response;

/** Notes on frames of a shot. */
final class FrameNoteController
{
    public function index(Shot $shot): AnonymousResourceCollection
    {
        return FrameNoteResource::collection($shot->frameNotes()->get());
    }

    public function store(FrameNoteRequest $request, Shot $shot): FrameNoteResource
    {
        return new FrameNoteResource($shot->frameNotes()->create($request->note()));
    }

    public function update(FrameNoteRequest $request, Shot $shot, FrameNote $frameNote): FrameNoteResource
    {
        $frameNote->update($request->note());

        return new FrameNoteResource($frameNote);
    }

    public function destroy(Shot $shot, FrameNote $frameNote): Response
    {
        $frameNote->delete();

        return response()->noContent();
    }
}
