<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Models\Follow;
use App\Models\Shot;
use App\Treatment\Progress;
use Illuminate\Http\Request;
use Illuminate\Http\Resources\Json\JsonResource;

/** @mixin Shot */
final class ShotResource extends JsonResource
{
    public static $wrap = null;

    /** @return array<string, mixed> */
    public function toArray(Request $request): array
    {
        $info = $this->footage?->info();

        return [
            'id' => $this->id,
            'jobId' => $this->job_id,
            'job' => $this->job->name,
            'name' => $this->name,
            'notes' => $this->notes,
            'state' => $this->state,
            'error' => $this->error,
            'from' => $this->from,
            'to' => $this->to,
            'revision' => $this->revision,
            'footage' => $info === null ? null : [
                'name' => $this->footage->name,
                'sha256' => $this->footage->sha256,
                'width' => $info->width,
                'height' => $info->height,
                'rate' => $info->rate,
                'fps' => $info->fps(),
                'variable' => $info->variable,
                'frames' => $info->frames(),
                'codec' => $info->codec,
                'pixelFormat' => $info->pixelFormat,
                'bits' => $info->bits,
                'tags' => (object) $info->tags,
                'timecode' => $info->timecode,
                'audio' => $info->audio,
                'notes' => $info->notes,
            ],
            'progress' => $this->state === Shot::READY ? app(Progress::class)->of($this->resource) : null,
            'following' => $this->follows()->whereIn('state', [Follow::WAITING, Follow::FOLLOWING])->count(),
        ];
    }
}
