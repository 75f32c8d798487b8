<?php

declare(strict_types=1);

namespace App\Following;

use App\Models\Follow;
use App\Models\FollowState;
use App\Models\Shot;
use App\Treatment\Recipes;
use App\Work\FollowArea;
use Illuminate\Support\Facades\DB;

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
        if ($area->outline->shapes === []) {
            throw CannotFollow::withoutOutline($area->name);
        }

        return DB::transaction(static function () use ($shot, $wanted, $area): Follow {
            if ($shot->follows()->where('area', $area->id)->where('shape', $wanted['shape'] ?? null)->whereIn('state', FollowState::open())->exists()) {
                throw CannotFollow::already($area->name);
            }
            $follow = $shot->follows()->create([...$wanted, 'state' => FollowState::Waiting]);
            FollowArea::dispatch($follow->id);

            return $follow;
        })->refresh();
    }
}
