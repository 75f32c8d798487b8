<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;

/** Undo, redo or going back to an earlier state, as seen from a revision. */
final class MoveRequest extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return ['base' => ['required', 'integer']];
    }

    public function base(): int
    {
        return (int) $this->validated('base');
    }
}
