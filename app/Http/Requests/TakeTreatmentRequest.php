<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Cossel\Core\Recipe\InvalidRecipe;
use Illuminate\Foundation\Http\FormRequest;

/** Keeps the treatment of a file under a name. */
final class TakeTreatmentRequest extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return ['title' => ['required', 'string', 'max:80'], 'text' => ['required', 'string', 'max:' . config('limits.texts.bytes')]];
    }

    public function title(): string
    {
        return $this->validated('title');
    }

    /** @throws InvalidRecipe */
    public function document(): mixed
    {
        return json_decode($this->validated('text'), true, 128) ?? throw InvalidRecipe::at('', 'JSON', null);
    }
}
