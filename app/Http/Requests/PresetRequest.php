<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;

/** Keeps a way of delivering under a name. */
final class PresetRequest extends FormRequest
{
    use WantsDelivery;

    /** @return array<string, mixed> */
    public function rules(): array
    {
        return ['title' => ['required', 'string', 'max:80'], ...self::ofOrder()];
    }

    /** @return array<string, mixed> what an order has to be, wherever it comes from */
    public static function ofOrder(): array
    {
        return [...self::ofDelivery(), ...self::ofMany()];
    }

    public function title(): string
    {
        return $this->validated('title');
    }

    /** @return array<string, mixed> */
    public function order(): array
    {
        return ['format' => $this->wantedFormat()->value, 'handles' => $this->boolean('handles'), 'name' => $this->validated('name'), ...$this->wishes()->document()];
    }
}
