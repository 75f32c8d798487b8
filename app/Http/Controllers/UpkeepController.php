<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Faces\Faces;
use App\Footage\FrameCache;
use App\Http\Resources\FailureResource;
use App\Models\Failure;
use App\Pictures\PictureCache;
use App\Upkeep\Failures;
use App\Upkeep\Leftovers;
use App\Upkeep\State;
use Illuminate\Filesystem\Filesystem;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\Storage;

/** How the system stands, and what can be done about it. */
final class UpkeepController
{
    public function show(State $state): JsonResponse
    {
        return new JsonResponse([...$state->told(), 'failures' => FailureResource::collection(Failure::orderByDesc('id')->limit(200)->get())]);
    }

    /** Throws away what may be made again at any time, and what is left over. */
    public function room(State $state, Leftovers $leftovers, FrameCache $frames, Faces $faces, PictureCache $pictures, Filesystem $files): JsonResponse
    {
        $before = (float) disk_free_space(Storage::disk('data')->path(''));
        $frames->empty();
        $pictures->empty();
        $faces->empty();
        $leftovers->clear();
        State::makeRoom($files);
        clearstatcache();

        return new JsonResponse(['freed' => max(0, (int) ((float) disk_free_space(Storage::disk('data')->path('')) - $before)), ...$this->show($state)->getData(true)]);
    }

    public function retry(Failure $failure): Response
    {
        Failures::retry($failure);

        return response()->noContent();
    }

    public function destroy(Failure $failure): Response
    {
        $failure->delete();

        return response()->noContent();
    }
}
