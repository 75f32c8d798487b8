<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;

/** Hands over the text of a file: SVG, look-up table, decision list. */
final class TextRequest extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return ['text' => ['required', 'string', 'max:' . config($this->is('api/cubes') ? 'limits.texts.cube_bytes' : 'limits.texts.bytes')]];
    }

    public function text(): string
    {
        return $this->validated('text');
    }
}
