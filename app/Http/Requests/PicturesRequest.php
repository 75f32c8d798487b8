<?php

declare(strict_types=1);

namespace App\Http\Requests;

/** Asks for pictures of several frames, alike but for that, in the order they are wanted in. */
class PicturesRequest extends PictureRequest
{
    private const MOST = 32;

    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [...array_diff_key(parent::rules(), ['frame' => true]), 'frames' => ['required', 'array', 'list', 'between:1,' . self::MOST], 'frames.*' => $this->ofSpan()];
    }

    public function frame(): int
    {
        return $this->frames()[0];
    }

    /** @return list<int> */
    public function frames(): array
    {
        return array_map(intval(...), array_values($this->validated('frames')));
    }
}
