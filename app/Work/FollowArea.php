<?php

declare(strict_types=1);

namespace App\Work;

use App\Following\AreaFollower;
use App\Following\Following;
use App\Following\PersonFollow;
use App\Models\Follow;
use App\Models\FollowState;
use App\Treatment\Recipes;
use App\Treatment\Tracks;
use Cossel\Core\Motion\Step;
use Cossel\Core\Motion\TooLittleTexture;
use Cossel\Core\Recipe\UnknownId;

/** Follows an area in the background and puts the track into the recipe, also when it is stopped half-way. */
final class FollowArea implements Piece
{
    use Background;

    /** Nanoseconds of a clock that nobody can set. */
    private const TOLD_EVERY = 200_000_000;

    public function __construct(private readonly int $follow)
    {
        $this->onQueue(Queues::BENCH);
    }

    public function about(): string
    {
        return "follow {$this->follow}";
    }

    public function what(): string
    {
        return 'Following an area';
    }

    public function again(): void
    {
        if (Follow::whereKey($this->follow)->where('state', FollowState::Failed)->update(['state' => FollowState::Waiting, 'message' => null, 'stop' => false]) === 1) {
            self::dispatch($this->follow);
        }
    }

    public function handle(AreaFollower $follower, Recipes $recipes, Tracks $tracks, PersonFollow $person): void
    {
        $follow = Follow::find($this->follow);
        if ($follow === null || !$follow->state->isOpen() || self::waits($follow)) {
            return;
        }
        if ($follow->stop) {
            self::over($follow, $person, ['state' => FollowState::Stopped]);

            return;
        }
        $follow->update(['state' => FollowState::Following]);
        $shot = $follow->shot;
        try {
            $recipe = $follow->person === null ? $recipes->recipe($shot) : $person->recipe($follow);
            $area = $recipe->area($follow->area);
            $shape = $follow->shape === null ? null : $area->outline->shape($follow->shape);
            $track = $follower->follow($shot->readyFootage()->file(), $recipe, $area, $shape, $tracks->of($recipe), $follow->start, $follow->from, $follow->to, $this->report($follow), self::measuring($follow));
            if (!Follow::whereKey($follow->id)->exists()) {
                return;
            }
            $sha256 = $tracks->keep($track);
            if ($follow->person === null) {
                $recipes->edit($shot, static fn(array $document): array => Following::into($document, $follow, $sha256), "Follow {$area->name}");
            }
            $ended = ['message' => null, 'state' => $follow->refresh()->stop ? FollowState::Stopped : FollowState::Done, 'track' => $follow->person === null ? null : $sha256];
        } catch (TooLittleTexture|UnknownId $reason) {
            $ended = ['state' => FollowState::Failed, 'message' => $reason->getMessage()];
        }
        self::over($follow, $person, $ended);
    }

    /** @param array<string, mixed> $ended */
    private static function over(Follow $follow, PersonFollow $person, array $ended): void
    {
        if ($follow->person === null) {
            $follow->update($ended);
        } else {
            $person->over($follow, $ended);
        }
    }

    /** Begun too early, as after an upgrade: it is begun again by the follow it waits for. */
    private static function waits(Follow $follow): bool
    {
        return $follow->after !== null && Follow::whereKey($follow->after)->whereIn('state', FollowState::open())->exists();
    }

    public function failed(?\Throwable $reason): void
    {
        $follow = Follow::find($this->follow);
        if ($follow?->state->isOpen()) {
            self::over($follow, app(PersonFollow::class), ['state' => FollowState::Failed, 'message' => 'Following broke off. ' . Said::of($reason)]);
        }
    }

    /** @return callable(int, int): bool tells the database a few times a second on how many frames faces are measured, and of how many; false once asked to stop */
    private static function measuring(Follow $follow): callable
    {
        $told = 0;

        return static function (int $done, int $of) use ($follow, &$told): bool {
            if (hrtime(true) - $told < self::TOLD_EVERY) {
                return true;
            }
            $told = hrtime(true);
            Patience::note(static fn(): bool => $follow->update(['message' => "measuring faces, {$done} of {$of}"]));

            return $follow->newQuery()->whereKey($follow->id)->where('stop', false)->exists();
        };
    }

    /** @return callable(int, Step): bool tells the database a few times a second; false once asked to stop */
    private function report(Follow $follow): callable
    {
        $steps = [];
        $told = 0;

        return static function (int $frame, Step $step) use ($follow, &$steps, &$told): bool {
            $steps[$frame] = [$frame, round($step->confidence, 3), $step->state->value];
            if (hrtime(true) - $told < self::TOLD_EVERY) {
                return true;
            }
            $told = hrtime(true);
            Patience::note(static fn(): bool => $follow->update(['steps' => array_values($steps), 'message' => null]));

            return $follow->newQuery()->whereKey($follow->id)->where('stop', false)->exists();
        };
    }
}
