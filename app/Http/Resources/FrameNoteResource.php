<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Models\FrameNote;
use Illuminate\Http\Request;
use Illuminate\Http\Resources\Json\JsonResource;

/** @mixin FrameNote */
final class FrameNoteResource extends JsonResource
{
    /** @return array<string, mixed> */
    public function toArray(Request $request): array
    {
        return ['id' => $this->id, 'shotId' => $this->shot_id, 'frame' => $this->frame, 'text' => $this->text, 'resolved' => $this->resolved, 'createdAt' => $this->created_at?->toIso8601String()];
    }
}
