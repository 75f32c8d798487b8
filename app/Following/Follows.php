<?php

declare(strict_types=1);

namespace App\Following;

use App\Models\Follow;
use App\Models\FollowState;
use App\Models\Shot;
use App\Treatment\Recipes;
use App\Work\FollowArea;
use Cossel\Core\Propose\Ways;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Motion;
use Cossel\Core\Recipe\Part;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;

/** Follows of a shot's areas: begun here, done in the background. */
final class Follows
{
    public function __construct(private readonly Recipes $recipes) {}

    /**
     * @param array<string, mixed> $wanted area, shape, start, from and to
     *
     * @throws CannotFollow
     */
    public function begin(Shot $shot, array $wanted): Follow
    {
        $area = $this->recipes->recipe($shot)->area($wanted['area']);
        isset($wanted['shape']) && $area->outline->shape($wanted['shape']);

        return DB::transaction(static function () use ($shot, $wanted, $area): Follow {
            self::check($shot, $area, $wanted['shape'] ?? null);
            $follow = $shot->follows()->create([...$wanted, 'state' => FollowState::Waiting]);
            FollowArea::dispatch($follow->id);

            return $follow;
        })->refresh();
    }

    /**
     * A head and all that rides on it, each by what suits it: the head first, then its parts beside each other, teeth when the lips are done.
     *
     * @return Collection<int, Follow>
     *
     * @throws CannotFollow
     */
    public function person(Shot $shot, string $head, int $start, int $from, int $to): Collection
    {
        $recipe = $this->recipes->recipe($shot);
        $carrier = $recipe->area($head);
        $parts = array_values(array_filter($recipe->areas, static fn(Area $area): bool => $area->motion->on === $head && $area->motion->by === Motion::RIDE && Ways::of($area) !== null));
        $follows = DB::transaction(static function () use ($shot, $carrier, $parts, $start, $from, $to): array {
            $common = ['person' => (string) Str::uuid(), 'start' => $start, 'from' => $from, 'to' => $to, 'state' => FollowState::Waiting];
            $add = static function (Area $area, ?Follow $after) use ($shot, $common): Follow {
                self::check($shot, $area, null);

                // A part may have been outlined on a frame that shows it better than that of the head.
                $own = $area->outline->at;

                return $shot->follows()->create([...$common, 'start' => $after !== null && $own >= $common['from'] && $own <= $common['to'] ? $own : $common['start'], 'area' => $area->id, 'after' => $after?->id]);
            };
            $first = $add($carrier, null);
            $made = [];
            foreach ($parts as $area) {
                if (!$area->is(Part::Teeth)) {
                    $made[] = [$area, $add($area, $first)];
                }
            }
            $lips = array_values(array_filter($made, static fn(array $of): bool => $of[0]->is(Part::Lips)))[0][1] ?? $first;
            foreach ($parts as $area) {
                if ($area->is(Part::Teeth)) {
                    $made[] = [$area, $add($area, $lips)];
                }
            }
            FollowArea::dispatch($first->id);

            return [$first, ...array_column($made, 1)];
        });

        return Follow::whereIn('id', array_column($follows, 'id'))->orderBy('id')->get();
    }

    /** Asks a follow to stop, and with it all that was begun at once with it. */
    public function stop(Follow $follow): Follow
    {
        DB::transaction(static function () use ($follow): void {
            $all = $follow->person === null ? Follow::whereKey($follow->id) : Follow::where('person', $follow->person);
            $all->whereIn('state', FollowState::open())->update(['stop' => true]);
        });

        return $follow->refresh();
    }

    /** @throws CannotFollow */
    private static function check(Shot $shot, Area $area, ?string $shape): void
    {
        if ($area->outline->shapes === []) {
            throw CannotFollow::withoutOutline($area->name);
        }
        if ($shot->follows()->where('area', $area->id)->where('shape', $shape)->whereIn('state', FollowState::open())->exists()) {
            throw CannotFollow::already($area->name);
        }
    }
}
