<?php

declare(strict_types=1);

namespace App\Http\Requests;

/** Asks to follow an area, or one of its shapes, from a frame over a span. */
final class FollowRequest extends FollowPersonRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [...parent::rules(), 'shape' => ['nullable', 'string', 'max:64']];
    }
}
