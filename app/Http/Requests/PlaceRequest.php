<?php

declare(strict_types=1);

namespace App\Http\Requests;

/** Asks about one place of a frame. */
final class PlaceRequest extends FrameRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [...parent::rules(), 'at' => ['required', 'array', 'size:2'], 'at.*' => self::PLACE];
    }

    /** @return array{float, float} */
    public function at(): array
    {
        return $this->pair('at');
    }
}
