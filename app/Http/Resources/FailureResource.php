<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Models\Failure;
use App\Upkeep\Failures;
use Illuminate\Http\Request;
use Illuminate\Http\Resources\Json\JsonResource;

/** @mixin Failure */
final class FailureResource extends JsonResource
{
    /** @return array<string, mixed> */
    public function toArray(Request $request): array
    {
        $shot = Failures::shot($this->resource);

        return ['id' => $this->id, 'what' => $this->what, 'shot' => $shot === null ? null : ['id' => $shot->id, 'name' => $shot->name], 'reason' => $this->reason, 'at' => $this->updated_at?->toIso8601String()];
    }
}
