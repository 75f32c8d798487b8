<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Carrying\Carries;
use App\Carrying\Targets;
use App\Http\Requests\CarryRequest;
use App\Http\Resources\CarryResource;
use App\Models\Carry;
use App\Models\Job;
use App\Models\Shot;
use App\Pictures\ShotPictures;
use App\Pictures\View;
use App\Pictures\Wanted;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Resources\Json\AnonymousResourceCollection;
use Illuminate\Http\Response;

/** Carries of a shot's treatment to others. */
final class CarryController
{
    /** Rows of the pictures of a proposal. */
    private const ROWS = 360;

    public function __construct(private readonly Carries $carries) {}

    public function targets(Request $request, Shot $shot, Targets $targets): JsonResponse
    {
        $person = $request->query('person');

        return new JsonResponse(array_map(static fn(array $of): array => ['id' => $of['shot']->id, 'name' => $of['shot']->name, 'knows' => $of['knows'], 'likely' => $of['likely'], 'apart' => round($of['apart'], 1)], $targets->of($shot, is_string($person) ? $person : null)));
    }

    /** Those that were asked for last. */
    public function index(Shot $shot): AnonymousResourceCollection
    {
        $batch = Carry::where('source_id', $shot->id)->orderByDesc('id')->value('batch');

        return CarryResource::collection(Carry::where('batch', $batch)->with(['shot', 'source'])->orderBy('id')->get());
    }

    /** All that were asked for at once. */
    public function batch(Job $job, string $batch): AnonymousResourceCollection
    {
        return CarryResource::collection(Carry::where('batch', $batch)->whereRelation('shot', 'job_id', $job->id)->with(['shot', 'source'])->orderBy('id')->get());
    }

    public function store(CarryRequest $request, Shot $shot): AnonymousResourceCollection
    {
        return CarryResource::collection($this->carries->begin($shot, $request->shots(), $request->what()));
    }

    public function take(Carry $carry): CarryResource
    {
        return new CarryResource($this->carries->take($carry));
    }

    public function back(Carry $carry): CarryResource
    {
        return new CarryResource($this->carries->takeBack($carry));
    }

    public function leave(Carry $carry): CarryResource
    {
        $this->carries->leave($carry);

        return new CarryResource($carry->refresh());
    }

    /** The frame it was found on, before and after. */
    public function picture(Carry $carry, string $side, ShotPictures $pictures): Response
    {
        abort_if($carry->recipe === null || $carry->frame === null, 404, 'There is no proposal yet.');
        $wanted = $side === 'before'
            ? new Wanted($carry->frame, View::Result, null, self::ROWS, revision: $carry->revision)
            : new Wanted($carry->frame, View::Result, null, self::ROWS, unsaved: json_decode($carry->recipe, true, flags: JSON_THROW_ON_ERROR));

        return new Response($pictures->picture($carry->shot, $wanted)->jpeg, 200, ['Content-Type' => 'image/jpeg', 'Cache-Control' => 'private, max-age=3600']);
    }
}
