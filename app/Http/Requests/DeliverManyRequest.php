<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;

/** Asks for deliveries of several shots of a job. */
final class DeliverManyRequest extends FormRequest
{
    use WantsDelivery;

    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [
            'shots' => ['required', 'array', 'max:1000'],
            'shots.*' => ['integer'],
            ...self::ofDelivery(),
            ...self::ofMany(),
            'slip' => ['required', 'string', 'between:8,28'],
        ];
    }

    /** @return list<int> */
    public function shots(): array
    {
        return array_map(intval(...), array_values($this->validated('shots')));
    }
}
