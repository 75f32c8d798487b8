<?php

declare(strict_types=1);

namespace App\Cuts;

use App\Following\CannotFollow;
use App\Following\Follows;
use App\Footage\FootageInfo;
use App\Footage\Intake;
use App\Models\Footage;
use App\Models\Job;
use App\Models\Shot;
use App\Models\ShotState;
use App\Treatment\Recipes;
use App\Work\PrepareFrames;
use Cossel\Core\Cut\Cut;
use Cossel\Core\Cut\Event;
use Illuminate\Support\Facades\DB;

/**
 * Cuts of jobs: their events become shots, in order, with handles. A cut brought in again moves, trims, adds and retires shots, and
 * takes no treatment away: a shot that was longer stays so, one that grows is followed on.
 */
final class Cuts
{
    public function __construct(private readonly Intake $intake, private readonly Recipes $recipes, private readonly Follows $follows) {}

    /** @return list<string> what was done, and what is not brought in: sentences */
    public function bringIn(Job $job, Cut $cut, int $handles): array
    {
        return DB::transaction(function () use ($job, $cut, $handles): array {
            $left = $job->shots()->with('footage')->get()->keyBy('id')->all();
            $counts = ['new' => 0, 'known' => 0, 'retired' => 0];
            $told = [];
            foreach ($cut->events as $i => $event) {
                $place = new CutPlace($event, $cut->rate, $handles);
                $shot = self::known($left, $place);
                if ($shot === null) {
                    ++$counts['new'];
                    $shot = Shot::create(['job_id' => $job->id, 'name' => self::named($job, $event->title()), 'state' => ShotState::Missing]);
                } else {
                    ++$counts['known'];
                    unset($left[$shot->id]);
                }
                $shot->update(['cut' => $place->document(), 'position' => $i]);
                array_push($told, ...array_map(static fn(string $words): string => "{$event->title()}: {$words}.", $event->told));
                array_push($told, ...$this->settle($shot));
            }
            foreach (array_filter($left, static fn(Shot $shot): bool => $shot->cut !== null) as $shot) {
                $counts['retired'] += (int) !CutPlace::of($shot->cut)->isRetired;
                $shot->update(['cut' => CutPlace::of($shot->cut)->retired()->document()]);
            }
            $this->order($job, count($cut->events));

            return [self::counted($counts), ...$told];
        });
    }

    /** Gives footage to the shots of a job that ask for it. */
    public function supply(Job $job, Footage $footage): void
    {
        foreach ($job->shots()->where('state', ShotState::Missing)->get() as $shot) {
            if ($shot->wants !== null && $shot->wants['sha256'] === $footage->sha256) {
                $this->intake->fill($shot, $footage, $shot->wants['span']);
                $shot->update(['wants' => null]);
                PrepareFrames::dispatch($shot->id);
            } elseif ($shot->cut !== null && CutPlace::of($shot->cut)->isOf($footage->name)) {
                $this->settle($shot);
            }
        }
    }

    /** The first shot of a job that asks for a file of this name. */
    public static function asking(int $job, string $name): ?Shot
    {
        return Shot::where('job_id', $job)->where('state', ShotState::Missing)->orderBy('position')->get()->first(static fn(Shot $shot): bool => $shot->cut !== null && CutPlace::of($shot->cut)->isOf($name));
    }

    /**
     * Finds a shot's footage, or fits its span to what the cut shows of it.
     *
     * @return list<string>
     */
    private function settle(Shot $shot): array
    {
        if ($shot->state === ShotState::Reading || $shot->state === ShotState::Doubtful) {
            // Its file is on its way in; once it is read, or taken as it is, this comes again.
            return [];
        }
        $place = CutPlace::of($shot->cut);
        $footage = $shot->footage ?? self::footage($place);
        if ($footage === null) {
            $shot->update(['state' => ShotState::Missing, 'error' => "Its footage is not here: bring in {$place->event->media()}."]);

            return ["{$shot->name} asks for {$place->event->media()}."];
        }
        $span = $place->span($footage->info());
        if ($span === null) {
            return $this->short($shot, $place, $footage->info());
        }
        if ($shot->state !== ShotState::Ready) {
            $this->intake->fill($shot, $footage, $span);
            PrepareFrames::dispatch($shot->id);

            return [];
        }

        return $this->grow($shot, [min($shot->from, $span[0]), max($shot->to, $span[1])]);
    }

    /** @return list<string> */
    private function short(Shot $shot, CutPlace $place, FootageInfo $footage): array
    {
        [$first, $last] = $place->frames($footage);
        $words = sprintf('The cut asks for frames %d to %d of %s, which has 0 to %d', $first, $last, $place->event->media(), $footage->frames() - 1);
        if ($shot->state !== ShotState::Ready) {
            $shot->update(['state' => ShotState::Missing, 'error' => "{$words}."]);
        }

        return ["{$shot->name}: " . lcfirst($words) . '.'];
    }

    /**
     * Frames at either end that a cut shows now are taken in and followed on to; what was there stays.
     *
     * @param array{int, int} $span
     *
     * @return list<string>
     */
    private function grow(Shot $shot, array $span): array
    {
        [$from, $to] = [$shot->from, $shot->to];
        if ($span === [$from, $to]) {
            return [];
        }
        $shot->update(['from' => $span[0], 'to' => $span[1], 'light' => null]);
        $revision = $this->recipes->edit($shot, static function (array $document) use ($from, $to, $span): array {
            $document['source']['span'] = $span;
            foreach ($document['areas'] as &$area) {
                $area['live']['from'] = $area['live']['from'] === $from ? $span[0] : $area['live']['from'];
                $area['live']['to'] = $area['live']['to'] === $to ? $span[1] : $area['live']['to'];
            }

            return $document;
        }, "The cut grew to {$span[0]}–{$span[1]}");
        PrepareFrames::dispatch($shot->id);
        foreach ($revision->document()['areas'] as $area) {
            if (($area['motion']['by'] ?? null) !== 'follow' || ($area['motion']['track'] ?? null) === null) {
                continue;
            }
            $isBoth = $span[0] < $from && $span[1] > $to;
            $start = $isBoth ? $area['motion']['start'] : ($span[1] > $to ? $to : $from);
            try {
                $this->follows->begin($shot, ['area' => $area['id'], 'start' => $start, 'from' => min($start, $span[1] > $to && !$isBoth ? $start : $span[0]), 'to' => max($start, $span[1] > $to ? $span[1] : $start)]);
            } catch (CannotFollow) {
                // It is being followed already; whoever began that sees how far it goes.
            }
        }

        return ["{$shot->name} grew to frames {$span[0]} to {$span[1]}; what was followed is followed on."];
    }

    /**
     * The shot that shows the most of the same frames of the same media.
     *
     * @param array<int, Shot> $shots
     */
    private static function known(array $shots, CutPlace $place): ?Shot
    {
        $best = null;
        $most = 0;
        foreach ($shots as $shot) {
            $shared = $shot->cut === null ? self::sharedByHand($shot, $place) : self::shared(CutPlace::of($shot->cut)->event, $place->event);
            if ($shared > $most) {
                [$best, $most] = [$shot, $shared];
            }
        }

        return $best;
    }

    private static function shared(Event $one, Event $other): int
    {
        return mb_strtolower($one->media()) === mb_strtolower($other->media()) ? min($one->out, $other->out) - max($one->in, $other->in) : 0;
    }

    /** Frames of an event in a shot that was brought in without a cut; only where something is done in it, so that a whole reel is no shot. */
    private static function sharedByHand(Shot $shot, CutPlace $place): int
    {
        if ($shot->footage === null || $shot->revision < 2 || !$place->isOf($shot->footage->name)) {
            return 0;
        }
        [$first, $last] = $place->frames($shot->footage->info());

        return min($shot->to, $last) - max($shot->from, $first) + 1;
    }

    private static function footage(CutPlace $place): ?Footage
    {
        $named = Footage::orderByDesc('id')->get(['id', 'name'])->first(static fn(Footage $footage): bool => $place->isOf($footage->name));

        return $named?->fresh();
    }

    /** A name that no shot of the job has. */
    private static function named(Job $job, string $name): string
    {
        $taken = $job->shots()->pluck('name')->all();
        for ($free = mb_substr($name, 0, 110), $n = 2; in_array($free, $taken, true); ++$n) {
            $free = mb_substr($name, 0, 110) . " {$n}";
        }

        return $free;
    }

    /** The cut first, then what is in none, then what was retired. */
    private function order(Job $job, int $events): void
    {
        $rank = static fn(Shot $shot): int => $shot->cut === null ? 1 : (CutPlace::of($shot->cut)->isRetired ? 2 : 0);
        $shots = $job->shots()->get()->sortBy(static fn(Shot $shot): array => [$rank($shot), $shot->position, $shot->id])->values();
        foreach ($shots as $position => $shot) {
            $shot->update(['position' => $position]);
        }
    }

    /** @param array{new: int, known: int, retired: int} $counts */
    private static function counted(array $counts): string
    {
        $words = ['new' => ['is new', 'are new'], 'known' => ['was known', 'were known'], 'retired' => ['is no longer in the cut', 'are no longer in the cut']];
        $told = [];
        foreach (array_filter($counts) as $what => $n) {
            $shots = $told !== [] ? '' : ($n === 1 ? ' shot' : ' shots');
            $told[] = "{$n}{$shots} " . $words[$what][$n === 1 ? 0 : 1];
        }

        return implode(', ', $told) . '.';
    }
}
