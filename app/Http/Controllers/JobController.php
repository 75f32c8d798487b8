<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\NameRequest;
use App\Http\Requests\OrderRequest;
use App\Http\Resources\JobResource;
use App\Http\Resources\JobRowResource;
use App\Models\Job;
use App\Treatment\Removal;
use App\Treatment\ShotList;
use Illuminate\Http\Resources\Json\AnonymousResourceCollection;
use Illuminate\Http\Response;

final class JobController
{
    public function index(): AnonymousResourceCollection
    {
        return JobRowResource::collection(Job::with(['people', 'posters', 'begun' => ShotList::complete(...)])->withCount('shots')->orderByDesc('id')->get());
    }

    public function store(NameRequest $request): JobResource
    {
        return new JobResource(Job::create(['name' => $request->name()]));
    }

    public function show(Job $job): JobResource
    {
        return new JobResource($job->load(['people', 'shots' => ShotList::complete(...)]));
    }

    public function update(NameRequest $request, Job $job): JobResource
    {
        $job->update(['name' => $request->name()]);

        return $this->show($job);
    }

    public function destroy(Job $job, Removal $removal): Response
    {
        $removal->job($job);

        return response()->noContent();
    }

    /** Puts the shots in an order; those not named keep theirs, behind. */
    public function order(OrderRequest $request, Job $job): JobResource
    {
        $wanted = array_flip($request->shots());
        ShotList::arrange($job->shots()->toBase()->get(['id', 'position'])->sortBy(static fn(object $row): int => $wanted[$row->id] ?? count($wanted) + $row->position));

        return $this->show($job->refresh());
    }
}
