<?php

declare(strict_types=1);

namespace App\Work;

use App\Following\AreaFollower;
use App\Models\Follow;
use App\Models\FollowState;
use App\Treatment\Recipes;
use App\Treatment\Tracks;
use Cossel\Core\Motion\Step;
use Cossel\Core\Motion\TooLittleTexture;
use Cossel\Core\Recipe\Model;
use Cossel\Core\Recipe\Motion;
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

    public function handle(AreaFollower $follower, Recipes $recipes, Tracks $tracks): void
    {
        $follow = Follow::find($this->follow);
        if ($follow === null || !$follow->state->isOpen()) {
            return;
        }
        if ($follow->stop) {
            $follow->update(['state' => FollowState::Stopped]);

            return;
        }
        $follow->update(['state' => FollowState::Following]);
        $shot = $follow->shot;
        try {
            $recipe = $recipes->recipe($shot);
            $area = $recipe->area($follow->area);
            $shape = $follow->shape === null ? null : $area->outline->shape($follow->shape);
            $track = $follower->follow($shot->readyFootage()->file(), $recipe, $area, $shape, $tracks->of($recipe), $follow->start, $follow->from, $follow->to, $this->report($follow));
            if (!Follow::whereKey($follow->id)->exists()) {
                return;
            }
            $sha256 = $tracks->keep($track);
            $recipes->edit($shot, static fn(array $document): array => self::withTrack($document, $follow, $sha256), "Follow {$area->name}");
            $follow->update(['state' => $follow->refresh()->stop ? FollowState::Stopped : FollowState::Done]);
        } catch (TooLittleTexture|UnknownId $reason) {
            $follow->update(['state' => FollowState::Failed, 'message' => $reason->getMessage()]);
        }
    }

    public function failed(?\Throwable $reason): void
    {
        Follow::whereKey($this->follow)->whereIn('state', FollowState::open())->update(['state' => FollowState::Failed, 'message' => 'Following broke off. ' . Said::of($reason)]);
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
            Patience::note(static fn(): bool => $follow->update(['steps' => array_values($steps)]));

            return $follow->newQuery()->whereKey($follow->id)->where('stop', false)->exists();
        };
    }

    /**
     * @param array<string, mixed> $document
     *
     * @return array<string, mixed>
     */
    private static function withTrack(array $document, Follow $follow, string $sha256): array
    {
        foreach ($document['areas'] as &$area) {
            if ($area['id'] !== $follow->area) {
                continue;
            }
            if ($follow->shape === null) {
                $area['motion'] = self::following($area['motion'], $follow, $sha256);

                return $document;
            }
            foreach ($area['outline']['shapes'] as &$shape) {
                if ($shape['id'] === $follow->shape) {
                    $shape['motion'] = self::following($shape['motion'] ?? $area['motion'], $follow, $sha256);

                    return $document;
                }
            }
        }

        throw UnknownId::area($follow->area);
    }

    /**
     * @param array<string, mixed> $motion
     *
     * @return array<string, mixed>
     */
    private static function following(array $motion, Follow $follow, string $sha256): array
    {
        unset($motion['on']);

        return [
            'model' => Model::Similarity->value,
            'look' => ['by' => 'outline', 'margin' => 0],
            ...$motion,
            'by' => Motion::FOLLOW,
            'start' => $follow->start,
            'span' => [$follow->from, $follow->to],
            'track' => ['sha256' => $sha256],
        ];
    }
}
