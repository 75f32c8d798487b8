<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Footage\Uploads;
use App\Http\Requests\BeginUploadRequest;
use App\Http\Requests\FinishUploadRequest;
use App\Http\Resources\ShotResource;
use App\Http\Resources\UploadResource;
use App\Models\Job;
use App\Models\Upload;
use Illuminate\Http\Request;

/** Files come in piece by piece; a broken-off upload goes on where it stopped. */
final class UploadController
{
    public function __construct(private readonly Uploads $uploads) {}

    public function store(BeginUploadRequest $request, Job $job): UploadResource
    {
        return new UploadResource(Upload::create(['job_id' => $job->id, 'name' => $request->name(), 'size' => $request->size()]));
    }

    /** What belongs to no job yet: a bundle. */
    public function begin(BeginUploadRequest $request): UploadResource
    {
        return new UploadResource(Upload::create(['name' => $request->name(), 'size' => $request->size()]));
    }

    public function show(Upload $upload): UploadResource
    {
        return new UploadResource($upload);
    }

    /** Adds a piece; its offset must be what has been received so far. */
    public function update(Request $request, Upload $upload): UploadResource
    {
        $this->uploads->add($upload, (int) $request->query('offset', '0'), $request->getContent(true));

        return new UploadResource($upload);
    }

    /** Makes a shot of a whole upload; the file is read in the background. */
    public function finish(FinishUploadRequest $request, Upload $upload): ShotResource
    {
        abort_if($upload->job_id === null, 409, 'This was begun as a bundle.');
        abort_unless($upload->shot_id !== null || $upload->received() === $upload->size, 409, 'The upload is not whole yet.');

        return new ShotResource($this->uploads->finish($upload, $request->span()));
    }
}
