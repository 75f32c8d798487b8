<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Cuts\CutFile;
use App\Footage\Uploads;
use App\Http\Requests\CutRequest;
use App\Http\Resources\UploadResource;
use App\Models\Job;
use App\Models\Upload;
use App\Work\ReadCut;
use Illuminate\Http\Response;
use Illuminate\Support\Str;

/** The cut of a job, in and out. */
final class CutController
{
    /** Takes in one that was sent; asked for again, as when the answer was lost, nothing is done twice. */
    public function store(CutRequest $request, Upload $upload, Uploads $uploads): UploadResource
    {
        abort_if($upload->job_id === null, 409, 'This was begun as a bundle.');

        return new UploadResource($uploads->takeIn($upload, ['rate' => $request->rate(), 'handles' => $request->handles()], ReadCut::dispatch(...)));
    }

    public function show(Job $job, string $form): Response
    {
        $name = Str::slug($job->name) ?: 'cut';

        return new Response(CutFile::written($job, $form), 200, ['Content-Type' => $form === 'otio' ? 'application/json' : 'text/plain; charset=utf-8', 'Content-Disposition' => "attachment; filename=\"{$name}.{$form}\""]);
    }
}
