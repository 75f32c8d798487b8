<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Deliveries\FileName;
use App\Deliveries\Format;
use App\Deliveries\Wishes;
use Illuminate\Validation\Rule;

/** What all orders of deliveries tell. */
trait WantsDelivery
{
    public function wantedFormat(): Format
    {
        return Format::from($this->validated('format'));
    }

    public function wishes(): Wishes
    {
        return Wishes::of($this->validated());
    }

    /** @return array<string, mixed> rules for orders of several shots */
    private static function ofMany(): array
    {
        return [
            'handles' => ['required', 'boolean'],
            'name' => ['bail', 'required', 'string', 'max:120', static function (string $field, string $pattern, \Closure $fail): void {
                $problem = FileName::problem($pattern);
                $problem === null || $fail($problem);
            }],
        ];
    }

    /** @return array<string, mixed> */
    private static function ofDelivery(): array
    {
        return ['format' => ['bail', 'required', 'string', Rule::enum(Format::class)], ...Wishes::rules()];
    }
}
