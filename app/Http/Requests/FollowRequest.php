<?php

declare(strict_types=1);

namespace App\Http\Requests;

/** Asks to follow an area, or one of its shapes, from a frame over a span. */
final class FollowRequest extends ShotRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [
            'area' => ['required', 'string', 'max:64'],
            'shape' => ['nullable', 'string', 'max:64'],
            'start' => $this->ofSpan(),
            'from' => [...$this->ofSpan(), 'lte:start'],
            'to' => [...$this->ofSpan(), 'gte:start'],
        ];
    }
}
