<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Models\Job;
use App\Models\Shot;
use App\Treatment\Progress;
use Illuminate\Http\Request;
use Illuminate\Http\Resources\Json\JsonResource;

/**
 * A job in the list of all: what it is known by, and how much of it is left to do.
 *
 * @mixin Job
 */
final class JobRowResource extends JsonResource
{
    /** @return array<string, mixed> */
    public function toArray(Request $request): array
    {
        $progress = app(Progress::class);
        $shots = (int) $this->resource->getAttribute('shots_count');

        return [
            'id' => $this->id,
            'name' => $this->name,
            'people' => PersonResource::collection($this->people),
            'shots' => $shots,
            'left' => $shots - $this->begun->filter($progress->isDone(...))->count(),
            'posters' => $this->posters->map(static fn(Shot $shot): array => ['id' => $shot->id, 'revision' => $shot->revision])->all(),
        ];
    }
}
