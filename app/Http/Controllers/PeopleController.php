<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Carrying\LikelyShots;
use App\Http\Requests\NameRequest;
use App\Http\Resources\JobResource;
use App\Models\Job;
use App\Models\Person;
use App\Treatment\People;
use Illuminate\Http\JsonResponse;

/** The people of a job. */
final class PeopleController
{
    public function __construct(private readonly People $people) {}

    public function store(NameRequest $request, Job $job): JobResource
    {
        $this->people->add($job, $request->name());

        return $this->job($job);
    }

    public function update(NameRequest $request, Job $job, Person $person): JobResource
    {
        $this->people->rename($person, $request->name());

        return $this->job($job);
    }

    public function destroy(Job $job, Person $person): JobResource
    {
        $this->people->remove($job, $person);

        return $this->job($job);
    }

    /** Shots that probably show somebody whom nothing is outlined of there, and the frame they are seen on first. */
    public function likely(Job $job, Person $person, LikelyShots $likely): JsonResponse
    {
        $frames = $likely->of($job, $person->slug);

        return new JsonResponse(array_map(static fn(int $shot, int $frame): array => ['shot' => $shot, 'frame' => $frame], array_keys($frames), $frames));
    }

    private function job(Job $job): JobResource
    {
        return new JobResource($job->refresh());
    }
}
