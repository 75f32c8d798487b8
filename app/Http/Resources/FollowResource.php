<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Models\Follow;
use Illuminate\Http\Request;
use Illuminate\Http\Resources\Json\JsonResource;

/** @mixin Follow */
final class FollowResource extends JsonResource
{
    /** @return array<string, mixed> */
    public function toArray(Request $request): array
    {
        return [
            'id' => $this->id,
            'area' => $this->area,
            'shape' => $this->shape,
            'state' => $this->state,
            'start' => $this->start,
            'from' => $this->from,
            'to' => $this->to,
            'steps' => $this->steps,
            'message' => $this->message,
            'person' => $this->person,
        ];
    }
}
