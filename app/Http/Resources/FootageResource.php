<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Models\Footage;
use Illuminate\Http\Request;
use Illuminate\Http\Resources\Json\JsonResource;

/** @mixin Footage */
final class FootageResource extends JsonResource
{
    /** @return array<string, mixed> */
    public function toArray(Request $request): array
    {
        $info = $this->info();

        return [
            'name' => $this->name,
            'sha256' => $this->sha256,
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
            'damage' => $info->damage,
        ];
    }
}
