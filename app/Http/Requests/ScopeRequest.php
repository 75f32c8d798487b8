<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Pictures\Scope;
use Illuminate\Validation\Rule;

/** Asks for a scope of a view of a frame, or of an area of it. */
final class ScopeRequest extends PictureRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [...parent::rules(), 'scope' => ['bail', 'required', 'string', Rule::enum(Scope::class)], 'limited' => ['boolean'], 'zoom' => ['nullable', Rule::in([1, 2, 4])]];
    }

    public function scope(): Scope
    {
        return Scope::from($this->validated('scope'));
    }

    /** How many times the middle of a vectorscope is enlarged. */
    public function zoom(): int
    {
        return (int) ($this->validated('zoom') ?? 1);
    }

    public function limited(): bool
    {
        return (bool) $this->validated('limited', false);
    }
}
