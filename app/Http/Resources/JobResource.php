<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Models\Job;
use Illuminate\Http\Request;
use Illuminate\Http\Resources\Json\JsonResource;

/** @mixin Job */
final class JobResource extends JsonResource
{
    /** @return array<string, mixed> */
    public function toArray(Request $request): array
    {
        return [
            'id' => $this->id,
            'name' => $this->name,
            'people' => PersonResource::collection($this->people),
            'shots' => ShotResource::collection($this->shots),
        ];
    }
}
