<?php

declare(strict_types=1);

namespace App\Http\Requests;

/** Asks for a delivery of frames of a shot. */
final class DeliverRequest extends ShotRequest
{
    use WantsDelivery;

    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [...self::ofDelivery(), 'from' => $this->ofSpan(), 'to' => [...$this->ofSpan(), 'gte:from'], 'slip' => ['string', 'between:8,40']];
    }
}
