<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;

/** Makes a shot of a file that came in: of all its frames, or from and to a frame. */
final class FinishUploadRequest extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return ['from' => ['nullable', 'integer', 'min:0'], 'to' => ['nullable', 'integer', 'min:0', ...($this->input('from') === null ? [] : ['gte:from'])]];
    }

    /** @return array{int, int|null}|null null for all frames */
    public function span(): ?array
    {
        [$from, $to] = [$this->validated('from'), $this->validated('to')];

        return $from === null && $to === null ? null : [(int) $from, $to === null ? null : (int) $to];
    }
}
