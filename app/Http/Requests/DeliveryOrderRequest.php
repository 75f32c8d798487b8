<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;

/** The order in which deliveries are rendered, by their ids. */
final class DeliveryOrderRequest extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return ['deliveries' => ['present', 'array', 'max:1000'], 'deliveries.*' => ['integer', 'distinct']];
    }

    /** @return list<int> */
    public function deliveries(): array
    {
        return array_map(intval(...), array_values($this->validated('deliveries')));
    }
}
