<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Deliveries\Format;
use Illuminate\Validation\Rule;

/** Asks for a delivery of frames of a shot. */
final class DeliverRequest extends ShotRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return ['format' => ['bail', 'required', 'string', Rule::enum(Format::class)], 'from' => $this->ofSpan(), 'to' => [...$this->ofSpan(), 'gte:from'], 'slip' => ['string', 'between:8,40']];
    }

    public function wantedFormat(): Format
    {
        return Format::from($this->validated('format'));
    }
}
