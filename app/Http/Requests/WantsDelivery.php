<?php

declare(strict_types=1);

namespace App\Http\Requests;

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

    /** @return array<string, mixed> */
    private static function ofDelivery(): array
    {
        return ['format' => ['bail', 'required', 'string', Rule::enum(Format::class)], ...Wishes::rules()];
    }
}
