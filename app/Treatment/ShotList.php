<?php

declare(strict_types=1);

namespace App\Treatment;

use App\Database\ShortTransactions;
use App\Models\DeliveryState;
use App\Models\FollowState;
use App\Models\Shot;
use Illuminate\Contracts\Database\Eloquent\Builder;
use Illuminate\Support\Collection;

/** The shots of a job, however many there are. */
final class ShotList
{
    /**
     * Reads shots with all that their progress is told from: as many queries for two hundred as for one.
     *
     * @param Builder|\Illuminate\Database\Eloquent\Relations\Relation<Shot, *, *> $shots
     */
    public static function complete(mixed $shots): void
    {
        $shots->with(['footage', 'job', 'presentRevision', 'presentJudging', 'ticks'])
            ->withCount([
                'frameNotes as open_notes_count' => static fn(Builder $notes) => $notes->where('resolved', false),
                'follows as following_count' => static fn(Builder $follows) => $follows->whereIn('state', FollowState::open()),
                'deliveries as delivered_count' => static fn(Builder $deliveries) => $deliveries->where('state', DeliveryState::Done)->whereColumn('deliveries.revision', 'shots.revision'),
            ]);
    }

    /**
     * Gives shots their places in the list of their job.
     *
     * @param Collection<int, \stdClass> $rows  id and position, in the order they are to stand in
     * @param int                        $first place of the first
     */
    public static function arrange(Collection $rows, int $first = 0): void
    {
        $moved = $rows->values()->map(static fn(object $row, int $i): array => [$row->id, $first + $i, $row->position])->filter(static fn(array $row): bool => $row[1] !== $row[2]);
        ShortTransactions::each($moved, static fn(array $row): int => Shot::whereKey($row[0])->update(['position' => $row[1]]), static fn() => null);
    }
}
