<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Resources\JobResource;
use App\Models\Job;
use Illuminate\Http\Request;
use Illuminate\Http\Resources\Json\AnonymousResourceCollection;
use Illuminate\Http\Response;
use Illuminate\Support\Str;

final class JobController
{
    public function index(): AnonymousResourceCollection
    {
        return JobResource::collection(Job::with(['people', 'shots.footage'])->orderByDesc('id')->get());
    }

    public function store(Request $request): JobResource
    {
        return new JobResource(Job::create($request->validate(['name' => ['required', 'string', 'max:120']])));
    }

    public function show(Job $job): JobResource
    {
        return new JobResource($job);
    }

    public function update(Request $request, Job $job): JobResource
    {
        $job->update($request->validate(['name' => ['required', 'string', 'max:120']]));

        return new JobResource($job);
    }

    public function destroy(Job $job): Response
    {
        $job->delete();

        return response()->noContent();
    }

    public function addPerson(Request $request, Job $job): JobResource
    {
        $name = $request->validate(['name' => ['required', 'string', 'max:80']])['name'];
        $job->people()->firstOrCreate(['slug' => Str::slug($name) ?: 'person'], ['name' => $name]);

        return new JobResource($job->refresh());
    }
}
