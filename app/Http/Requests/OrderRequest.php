<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;

/** The order of a job's shots, by their ids. */
final class OrderRequest extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        // Thousands at once: looked at in one go, not by a rule each.
        return ['shots' => ['present', 'array', 'max:20000', static function (string $field, mixed $shots, \Closure $fail): void {
            $ids = is_array($shots) ? array_filter($shots, static fn(mixed $id): bool => filter_var($id, FILTER_VALIDATE_INT) !== false) : [];
            is_array($shots) && count($ids) === count($shots) && count(array_unique($ids)) === count($ids) || $fail('The order names each shot by its number, once.');
        }]];
    }

    /** @return list<int> */
    public function shots(): array
    {
        return array_map(intval(...), array_values($this->validated('shots')));
    }
}
