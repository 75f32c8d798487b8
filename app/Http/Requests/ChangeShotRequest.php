<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;

/** Renames a shot or notes something on it; notes may be emptied. */
final class ChangeShotRequest extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return ['name' => ['sometimes', 'required', 'string', 'max:120'], 'notes' => ['sometimes', 'present', 'nullable', 'string', 'max:4000']];
    }

    /** @return array<string, string> */
    public function change(): array
    {
        return array_map(strval(...), $this->validated());
    }
}
