<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Treatment\Notes;
use Illuminate\Foundation\Http\FormRequest;

/** Renames a shot, notes something on it (notes may be emptied), puts it away or takes it out again. */
final class ChangeShotRequest extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [
            'name' => ['sometimes', 'required', 'string', 'max:120'],
            'notes' => ['sometimes', 'present', 'nullable', 'string', 'max:4000'],
            // As whoever writes saw them: somebody else may have written meanwhile.
            'base' => ['present_with:notes', 'nullable', 'string'],
            'archived' => ['sometimes', 'boolean'],
        ];
    }

    /** @return array<string, string|bool> */
    public function change(string $notes): array
    {
        return [
            ...($this->has('name') ? ['name' => (string) $this->validated('name')] : []),
            ...($this->has('notes') ? ['notes' => Notes::merged((string) $this->validated('base'), $notes, (string) $this->validated('notes'))] : []),
            ...($this->has('archived') ? ['archived' => $this->boolean('archived')] : []),
        ];
    }
}
