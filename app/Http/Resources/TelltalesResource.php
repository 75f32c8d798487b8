<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Judging\Judgings;
use App\Models\Judging;
use App\Models\Look;
use App\Models\Shot;
use Illuminate\Http\Request;
use Illuminate\Http\Resources\Json\JsonResource;

/**
 * What is known of the tell-tales of a shot as it is now.
 *
 * @mixin Shot
 */
final class TelltalesResource extends JsonResource
{
    public function __construct(Shot $shot, private readonly ?Judging $judging)
    {
        parent::__construct($shot);
    }

    /** @return array<string, mixed> */
    public function toArray(Request $request): array
    {
        $judging = $this->judging;

        return [
            'revision' => $this->revision,
            'begun' => $judging !== null,
            'done' => (int) $judging?->looks->whereNotNull('looks')->sum(static fn(Look $look): int => $look->frames()),
            'total' => $this->to - $this->from + 1,
            'message' => $judging?->message,
            'findings' => $judging?->measures === null ? null : FindingResource::collection(app(Judgings::class)->findings($judging)),
        ];
    }
}
