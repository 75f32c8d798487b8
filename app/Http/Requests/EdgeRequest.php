<?php

declare(strict_types=1);

namespace App\Http\Requests;

/** Asks for a path along visible edges between two places. */
final class EdgeRequest extends FrameRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [...parent::rules(), 'from' => ['required', 'array', 'size:2'], 'from.*' => self::PLACE, 'to' => ['required', 'array', 'size:2'], 'to.*' => self::PLACE];
    }

    /** @return array{array{float, float}, array{float, float}} */
    public function ends(): array
    {
        return [$this->pair('from'), $this->pair('to')];
    }
}
