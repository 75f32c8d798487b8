<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;

/** Proposes a kept treatment for shots, for a person. */
final class LayTreatmentRequest extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return ['shots' => ['required', 'array', 'max:1000'], 'shots.*' => ['integer'], 'person' => ['nullable', 'string', 'max:64'], 'replace' => ['required', 'boolean']];
    }

    /** @return list<int> */
    public function shots(): array
    {
        return array_map(intval(...), array_values($this->validated('shots')));
    }

    public function person(): ?string
    {
        return $this->validated('person');
    }
}
