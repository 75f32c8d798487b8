<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\NameRequest;
use App\Http\Resources\JobResource;
use App\Models\Job;
use App\Models\Person;
use App\Treatment\People;

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

    private function job(Job $job): JobResource
    {
        return new JobResource($job->refresh());
    }
}
