<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Models\Carry;
use Illuminate\Http\Request;
use Illuminate\Http\Resources\Json\JsonResource;

/** @mixin Carry */
final class CarryResource extends JsonResource
{
    /** @return array<string, mixed> */
    public function toArray(Request $request): array
    {
        return [
            'id' => $this->id,
            'batch' => $this->batch,
            'shot' => ['id' => $this->shot->id, 'name' => $this->shot->name],
            'state' => $this->state,
            'message' => $this->message,
            'words' => $this->words,
            'misses' => array_map(static fn(array $miss): array => ['name' => $miss[0], 'before' => $miss[1], 'after' => $miss[2]], $this->misses),
            'frame' => $this->frame,
        ];
    }
}
