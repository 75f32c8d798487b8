<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Footage\ServerFolders;
use App\Footage\Uploads;
use App\Http\Requests\FolderRequest;
use App\Http\Resources\ShotResource;
use App\Models\Job;
use App\Models\Upload;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** Footage from folders of the server. */
final class FolderController
{
    public function index(Request $request): JsonResponse
    {
        $path = $request->query('path', '');

        return new JsonResponse(ServerFolders::list(is_string($path) ? $path : ''));
    }

    /** Brings a film or a sequence in; nothing is sent. */
    public function store(FolderRequest $request, Job $job, Uploads $uploads): ShotResource
    {
        $source = ServerFolders::source($request->source());
        $upload = Upload::create(['job_id' => $job->id, 'name' => basename($source), 'size' => 0, 'source' => $source]);

        return new ShotResource($uploads->finish($upload, $request->span()));
    }
}
