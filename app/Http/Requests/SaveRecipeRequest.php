<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;

/** Saves a whole recipe as it is after an edit. */
final class SaveRecipeRequest extends FormRequest
{
    private const LONGEST_LABEL = 120;

    /** @return array<string, mixed> */
    public function rules(): array
    {
        return ['base' => ['required', 'integer'], 'label' => ['required', 'string'], 'recipe' => ['required', 'array']];
    }

    public function base(): int
    {
        return (int) $this->validated('base');
    }

    /** A label only tells: however long it is, it never costs the edit. */
    public function label(): string
    {
        return mb_strimwidth($this->validated('label'), 0, self::LONGEST_LABEL, '…');
    }
}
