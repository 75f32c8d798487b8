<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Bundles\BundleWriter;
use App\Footage\Uploads;
use App\Http\Resources\UploadResource;
use App\Models\Job;
use App\Models\Upload;
use App\Work\ReadBundle;
use Illuminate\Http\Request;
use Illuminate\Support\Str;
use Symfony\Component\HttpFoundation\BinaryFileResponse;

/** Jobs as one file, out and in. */
final class BundleController
{
    public function show(Request $request, Job $job, BundleWriter $writer): BinaryFileResponse
    {
        $ids = $request->query('shots');
        $file = BundleWriter::temporary();
        $writer->write($job, is_string($ids) ? array_map(intval(...), explode(',', $ids)) : null, $request->boolean('footage'), $file);

        return response()->download($file, (Str::slug($job->name, '_') ?: 'job') . '.bundle.zip', ['Content-Type' => 'application/zip'])->deleteFileAfterSend();
    }

    /** Takes in one that was sent; how far it is stands in the upload. Asked for again, as when the answer was lost, nothing is done twice. */
    public function store(Upload $upload, Uploads $uploads): UploadResource
    {
        abort_unless($upload->job_id === null, 409, 'This was begun as footage.');

        return new UploadResource($uploads->takeIn($upload, [], ReadBundle::dispatch(...)));
    }
}
