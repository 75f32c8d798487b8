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
        return ['shots' => ['present', 'array', 'max:10000'], 'shots.*' => ['integer', 'distinct']];
    }

    /** @return list<int> */
    public function shots(): array
    {
        return array_map(intval(...), array_values($this->validated('shots')));
    }
}
