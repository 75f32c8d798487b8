<?php

declare(strict_types=1);

namespace App\Treatment;

use App\Models\DeliveryState;
use App\Models\FollowState;
use App\Models\Shot;
use Illuminate\Contracts\Database\Eloquent\Builder;

/** Reads shots with all that their progress is told from: as many queries for two hundred as for one. */
final class ShotList
{
    /** @param Builder|\Illuminate\Database\Eloquent\Relations\Relation<Shot, *, *> $shots */
    public static function complete(mixed $shots): void
    {
        $shots->with(['footage', 'job', 'presentRevision', 'presentJudging', 'ticks'])
            ->withCount([
                'frameNotes as open_notes_count' => static fn(Builder $notes) => $notes->where('resolved', false),
                'follows as following_count' => static fn(Builder $follows) => $follows->whereIn('state', FollowState::open()),
                'deliveries as delivered_count' => static fn(Builder $deliveries) => $deliveries->where('state', DeliveryState::Done)->whereColumn('deliveries.revision', 'shots.revision'),
            ]);
    }
}
