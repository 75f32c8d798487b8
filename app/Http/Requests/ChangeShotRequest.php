<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;

/** Renames a shot, notes something on it (notes may be emptied), puts it away or takes it out again. */
final class ChangeShotRequest extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return ['name' => ['sometimes', 'required', 'string', 'max:120'], 'notes' => ['sometimes', 'present', 'nullable', 'string', 'max:4000'], 'archived' => ['sometimes', 'boolean']];
    }

    /** @return array<string, string|bool> */
    public function change(): array
    {
        return [...array_map(strval(...), $this->safe()->except('archived')), ...($this->has('archived') ? ['archived' => $this->boolean('archived')] : [])];
    }
}
