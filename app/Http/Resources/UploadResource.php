<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Models\Upload;
use Illuminate\Http\Request;
use Illuminate\Http\Resources\Json\JsonResource;
use Illuminate\Support\Arr;

/** @mixin Upload */
final class UploadResource extends JsonResource
{
    /** What is told of what is taken in; the rest is for whoever goes on with it. */
    private const TOLD = ['state', 'message', 'job', 'told', 'done', 'of'];

    /** @return array<string, mixed> */
    public function toArray(Request $request): array
    {
        return ['id' => $this->id, 'received' => $this->received(), 'size' => $this->size, 'told' => $this->told === null ? null : Arr::only($this->told, self::TOLD)];
    }
}
