<?php

declare(strict_types=1);

namespace App\Http\Requests;

/** Asks to follow a head and what is on it, from a frame over a span. */
class FollowPersonRequest extends ShotRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [
            'area' => ['required', 'string', 'max:64'],
            'start' => $this->ofSpan(),
            'from' => [...$this->ofSpan(), 'lte:start'],
            'to' => [...$this->ofSpan(), 'gte:start'],
        ];
    }
}
