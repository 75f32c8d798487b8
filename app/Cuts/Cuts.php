<?php

declare(strict_types=1);

namespace App\Cuts;

use App\Database\ShortTransactions;
use App\Following\CannotFollow;
use App\Following\Follows;
use App\Footage\FileLock;
use App\Footage\Intake;
use App\Models\Footage;
use App\Models\Job;
use App\Models\Shot;
use App\Models\ShotState;
use App\Treatment\Recipes;
use App\Treatment\ShotList;
use Cossel\Core\Cut\Cut;
use Illuminate\Support\Facades\Storage;

/**
 * Cuts of jobs: their events become shots, in order, with handles. A cut brought in again moves, trims, adds and retires shots, and
 * takes no treatment away: a shot that was longer stays so, one that grows is followed on.
 */
final class Cuts
{
    public function __construct(private readonly Intake $intake, private readonly Recipes $recipes, private readonly Follows $follows) {}

    /**
     * In transactions of a blink, so that nobody at the bench waits for a long cut. Broken off, it is gone on with where it was.
     *
     * @param (callable(Brought): mixed)|null $tell within each of the transactions: how far it is
     *
     * @return list<string> what was done, and what is not brought in: sentences
     */
    public function bringIn(Job $job, Cut $cut, int $handles, Brought $brought = new Brought(), ?callable $tell = null): array
    {
        $lock = Storage::disk('data')->path("cut-of-job-{$job->id}.lock");
        FileLock::hold($lock, fn() => $this->bring($job, $cut, $handles, $brought, static fn() => $tell === null ? null : $tell($brought)));

        return $brought->sentences();
    }

    /** @param callable(): mixed $tell */
    private function bring(Job $job, Cut $cut, int $handles, Brought $brought, callable $tell): void
    {
        $known = new KnownShots($job->shots()->with('footage')->get());
        $footage = new KnownFootage();
        $ahead = new Ahead();
        $new = new NewShots($job, $this->recipes, $ahead);
        $events = static function () use ($cut, $handles, $known, $brought): \Generator {
            foreach ($cut->events as $i => $event) {
                $place = new CutPlace($event, $cut->rate, $handles);
                $shot = $known->take($place);
                // Those that are over with are taken only so that no other event takes them.
                if ($i >= $brought->done) {
                    yield [$i, $place, $shot];
                }
            }
        };
        ShortTransactions::each($events(), function (array $one) use ($footage, $new, $brought, $ahead): void {
            [$i, $place, $shot] = $one;
            $brought->tell(...array_map(static fn(string $words): string => "{$place->event->title()}: {$words}.", $place->event->told));
            if ($shot === null) {
                $brought->count('new');
                $new->add($place, $i, $footage->of($place), $brought);
            } else {
                $brought->count('known');
                $shot->update(['cut' => $place->document(), 'position' => $i]);
                $this->settle($shot, $footage, $brought, $ahead);
            }
            $brought->done = $i + 1;
        }, static function () use ($new, $tell): void {
            $new->write();
            $tell();
        });
        $retired = array_filter($known->left(), static fn(Shot $shot): bool => $shot->cut !== null && !CutPlace::of($shot->cut)->isRetired);
        ShortTransactions::each($retired, static function (Shot $shot) use ($brought): void {
            $brought->count('retired');
            $shot->update(['cut' => CutPlace::of($shot->cut ?? [])->retired()->document()]);
        }, $tell);
        self::order($job, count($cut->events));
    }

    /** Gives footage to the shots of a job that ask for it. */
    public function supply(Job $job, Footage $footage): void
    {
        $known = new KnownFootage();
        $ahead = new Ahead();
        ShortTransactions::each(self::askingFor($job->id, $footage->name, $footage->sha256), function (Shot $shot) use ($footage, $known, $ahead): void {
            if ($shot->wants !== null && $shot->wants['sha256'] === $footage->sha256) {
                $this->intake->fill($shot, $footage, $shot->wants['span']);
                $shot->update(['wants' => null]);
                $ahead->prepare($shot->id);
            } else {
                $this->settle($shot, $known, new Brought(), $ahead);
            }
        }, static fn() => null);
    }

    /** The first shot of a job that asks for a file of this name. */
    public static function asking(int $job, string $name): ?Shot
    {
        foreach (self::askingFor($job, $name) as $shot) {
            return $shot;
        }

        return null;
    }

    /** @return iterable<Shot> that wait for a file, in order */
    private static function askingFor(int $job, string $name, string $sha256 = ''): iterable
    {
        // What the database looks for is a rough sieve: names stand in JSON there, with all its ways of writing a letter.
        $rough = (string) preg_replace('/[^a-z0-9]+/', '%', CutPlace::mediaName($name));
        $shots = Shot::where('job_id', $job)->where('state', ShotState::Missing)->where(static fn($asks) => $asks->where('cut', 'like', "%{$rough}%")->when($sha256 !== '', static fn($or) => $or->orWhere('wants', 'like', "%{$sha256}%")));
        foreach ($shots->orderBy('position')->orderBy('id')->get() as $shot) {
            if (($shot->wants['sha256'] ?? null) === $sha256 || ($shot->cut !== null && CutPlace::of($shot->cut)->isOf($name))) {
                yield $shot;
            }
        }
    }

    /** Finds a shot's footage, or fits its span to what the cut shows of it. */
    private function settle(Shot $shot, KnownFootage $known, Brought $brought, Ahead $ahead): void
    {
        if ($shot->state === ShotState::Reading || $shot->state === ShotState::Doubtful) {
            // Its file is on its way in; once it is read, or taken as it is, this comes again.
            return;
        }
        $place = CutPlace::of($shot->cut ?? []);
        $footage = $shot->footage ?? $known->of($place);
        $wanting = Wanting::of($place, $footage);
        $wanting?->tell($shot->name, $brought);
        $span = $footage === null ? null : $place->span($footage->info());
        if ($footage === null || $span === null) {
            $shot->state === ShotState::Ready || $shot->update(['state' => ShotState::Missing, 'error' => $wanting?->error]);
        } elseif ($shot->state !== ShotState::Ready) {
            $this->intake->fill($shot, $footage, $span);
            $ahead->prepare($shot->id);
        } else {
            $brought->tell(...$this->grow($shot, [min($shot->from, $span[0]), max($shot->to, $span[1])], $ahead));
        }
    }

    /**
     * Frames at either end that a cut shows now are taken in and followed on to; what was there stays.
     *
     * @param array{int, int} $span
     *
     * @return list<string>
     */
    private function grow(Shot $shot, array $span, Ahead $ahead): array
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
        $ahead->prepare($shot->id);
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

    /** The cut first, then what is in none, then what was retired. */
    private static function order(Job $job, int $events): void
    {
        $rows = Shot::where('job_id', $job->id)->toBase()->select('id', 'position', 'cut->retired as retired')->whereRaw("cut is null or json_extract(cut, '$.retired')")->get()
            ->sortBy(static fn(object $row): array => [(int) $row->retired, $row->position, $row->id]);
        ShotList::arrange($rows, $events);
    }
}
