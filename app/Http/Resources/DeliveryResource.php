<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Models\Delivery;
use App\Models\DeliveryState;
use Illuminate\Http\Request;
use Illuminate\Http\Resources\Json\JsonResource;

/** @mixin Delivery */
final class DeliveryResource extends JsonResource
{
    /** @return array<string, mixed> */
    public function toArray(Request $request): array
    {
        return [
            'id' => $this->id,
            'shotId' => $this->shot_id,
            'shot' => $this->shot->name,
            'jobId' => $this->shot->job_id,
            'job' => $this->shot->job->name,
            'format' => $this->format->value,
            'formatLabel' => $this->format->label(),
            'state' => $this->state,
            'from' => $this->from,
            'to' => $this->to,
            'revision' => $this->revision,
            'frames' => $this->to - $this->from + 1,
            'done' => $this->state === DeliveryState::Done ? $this->to - $this->from + 1 : (int) $this->parts->sum('done'),
            'file' => $this->file === null ? null : basename($this->file),
            'beside' => $this->beside === null ? null : basename($this->beside),
            'bytes' => $this->bytes,
            'sha256' => $this->sha256,
            'error' => $this->error,
            'createdAt' => $this->created_at?->toIso8601String(),
        ];
    }
}
