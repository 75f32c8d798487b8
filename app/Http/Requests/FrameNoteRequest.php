<?php

declare(strict_types=1);

namespace App\Http\Requests;

/** A note on a frame of a shot, or whether it is resolved; its text stays as it was written. */
final class FrameNoteRequest extends ShotRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        $new = $this->isMethod('POST');

        return ['text' => $new ? ['required', 'string', 'max:4000'] : ['prohibited'], 'frame' => $new ? $this->ofSpan() : ['prohibited'], 'resolved' => ['sometimes', 'boolean']];
    }

    /** @return array<string, mixed> */
    public function note(): array
    {
        return $this->validated();
    }
}
