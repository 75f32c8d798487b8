<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Footage\RefusedFootage;
use App\Http\Resources\ShotResource;
use App\Models\Job;
use App\Models\Shot;
use App\Models\Upload;
use App\Work\ReadFootage;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** Files come in piece by piece; a broken-off upload goes on where it stopped. */
final class UploadController
{
    public function store(Request $request, Job $job): JsonResponse
    {
        $wanted = $request->validate(['name' => ['required', 'string', 'max:200'], 'size' => ['required', 'integer', 'min:1']]);
        $limit = (int) config('cossel.footage.most_upload_bytes');
        if ($wanted['size'] > $limit) {
            throw RefusedFootage::uploadSize($limit);
        }
        $upload = Upload::create(['job_id' => $job->id, 'name' => basename($wanted['name']), 'size' => $wanted['size']]);

        return self::state($upload, 201);
    }

    public function show(Upload $upload): JsonResponse
    {
        return self::state($upload);
    }

    /** Adds a piece; its offset must be what has been received so far. */
    public function update(Request $request, Upload $upload): JsonResponse
    {
        $offset = (int) $request->query('offset', '0');
        $piece = $request->getContent(true);
        $file = fopen($upload->path(), 'c');
        abort_if($file === false || !flock($file, LOCK_EX), 500, 'The upload cannot be written.');
        if ($offset === $upload->received()) {
            fseek($file, $offset);
            stream_copy_to_stream($piece, $file, $upload->size - $offset);
        }
        fclose($file);

        return self::state($upload);
    }

    /** Makes a shot of a whole upload; the file is read in the background. */
    public function finish(Request $request, Upload $upload): ShotResource
    {
        $span = $request->validate(['from' => ['nullable', 'integer', 'min:0'], 'to' => ['nullable', 'integer', 'gte:from']]);
        abort_unless($upload->received() === $upload->size, 409, 'The upload is not whole yet.');
        $shot = Shot::create(['job_id' => $upload->job_id, 'name' => pathinfo($upload->name, PATHINFO_FILENAME), 'state' => Shot::READING]);
        ReadFootage::dispatch($shot->id, $upload->path(), $upload->name, isset($span['from']) || isset($span['to']) ? [$span['from'] ?? 0, $span['to'] ?? null] : null);
        $upload->delete();

        return new ShotResource($shot);
    }

    private static function state(Upload $upload, int $status = 200): JsonResponse
    {
        return new JsonResponse(['id' => $upload->id, 'received' => $upload->received(), 'size' => $upload->size], $status);
    }
}
