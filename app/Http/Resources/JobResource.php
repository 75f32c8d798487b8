<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Models\Job;
use App\Models\Person;
use Illuminate\Http\Request;
use Illuminate\Http\Resources\Json\JsonResource;

/** @mixin Job */
final class JobResource extends JsonResource
{
    public static $wrap = null;

    /** @return array<string, mixed> */
    public function toArray(Request $request): array
    {
        return [
            'id' => $this->id,
            'name' => $this->name,
            'people' => $this->people->map(static fn(Person $person): array => ['slug' => $person->slug, 'name' => $person->name]),
            'shots' => ShotResource::collection($this->shots),
        ];
    }
}
