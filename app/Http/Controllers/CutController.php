<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Cuts\CutFile;
use App\Cuts\Cuts;
use App\Http\Requests\CutRequest;
use App\Models\Job;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Response;
use Illuminate\Support\Str;

/** The cut of a job, in and out. */
final class CutController
{
    public function store(CutRequest $request, Job $job, Cuts $cuts): JsonResponse
    {
        return new JsonResponse(['told' => $cuts->bringIn($job, $request->cut(), $request->handles())]);
    }

    public function show(Job $job, string $form): Response
    {
        $name = Str::slug($job->name) ?: 'cut';

        return new Response(CutFile::written($job, $form), 200, ['Content-Type' => $form === 'otio' ? 'application/json' : 'text/plain; charset=utf-8', 'Content-Disposition' => "attachment; filename=\"{$name}.{$form}\""]);
    }
}
