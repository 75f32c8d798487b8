<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Models\Revision;
use Illuminate\Http\Request;
use Illuminate\Http\Resources\Json\JsonResource;

/**
 * A line of a shot's history.
 *
 * @mixin Revision
 */
final class RevisionResource extends JsonResource
{
    /** @return array<string, mixed> */
    public function toArray(Request $request): array
    {
        return ['revision' => $this->number, 'parent' => $this->parent, 'label' => $this->label, 'createdAt' => $this->created_at->toIso8601String()];
    }
}
