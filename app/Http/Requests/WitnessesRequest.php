<?php

declare(strict_types=1);

namespace App\Http\Requests;

/** Asks for crops of an area held still, on several frames. */
final class WitnessesRequest extends PicturesRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [...parent::rules(), 'area' => ['required', 'string', 'max:64'], 'width' => ['required', 'integer', 'between:16,800']];
    }

    public function width(): int
    {
        return (int) $this->validated('width');
    }
}
