<?php

declare(strict_types=1);

namespace App\Cuts;

use App\Models\Shot;

/**
 * The shots of a job that events of a cut may be: each event is the one that shows the most of the same frames of the same media, and
 * each shot is one event.
 */
final class KnownShots
{
    /** @var array<int, Shot> that were not taken */
    private array $left = [];
    /** @var array<string, list<array{int, int, int}>> first frame, end and id, in order, by media */
    private array $spans = [];
    /** @var array<string, int> frames of the longest by media */
    private array $longest = [];
    /** @var array<string, list<Shot>> brought in without a cut and worked on, by the name of their footage */
    private array $byHand = [];

    /** @param iterable<Shot> $shots in the order of the job */
    public function __construct(iterable $shots)
    {
        foreach ($shots as $shot) {
            $this->left[$shot->id] = $shot;
            $event = $shot->cut === null ? null : CutPlace::of($shot->cut)->event;
            if ($event !== null) {
                $media = mb_strtolower($event->media());
                $this->spans[$media][] = [$event->in, $event->out, $shot->id];
                $this->longest[$media] = max($this->longest[$media] ?? 0, $event->length());
            } elseif ($shot->footage !== null && $shot->revision >= 2) {
                // Only where something is done in it, so that a whole reel is no shot.
                $this->byHand[CutPlace::mediaName($shot->footage->name)][] = $shot;
            }
        }
        foreach ($this->spans as &$spans) {
            usort($spans, static fn(array $a, array $b): int => $a[0] <=> $b[0]);
        }
    }

    public function take(CutPlace $place): ?Shot
    {
        $media = mb_strtolower($place->event->media());
        [$at, $frames] = $this->inCut($place, $media);
        $id = $at === null ? null : $this->spans[$media][$at][2];
        foreach ($place->media() as $name) {
            foreach ($this->byHand[$name] ?? [] as $shot) {
                $shared = isset($this->left[$shot->id]) ? self::sharedByHand($shot, $place) : 0;
                if ($shared > $frames) {
                    [$at, $id, $frames] = [null, $shot->id, $shared];
                }
            }
        }
        if ($id === null) {
            return null;
        }
        if ($at !== null) {
            array_splice($this->spans[$media], $at, 1);
        }
        $shot = $this->left[$id];
        unset($this->left[$id]);

        return $shot;
    }

    /** @return array<int, Shot> */
    public function left(): array
    {
        return $this->left;
    }

    /** @return array{int|null, int} which span of an earlier cut has the most frames in common, and how many; an equal one before all others */
    private function inCut(CutPlace $place, string $media): array
    {
        $event = $place->event;
        $spans = $this->spans[$media] ?? [];
        [$at, $most] = [null, 0];
        for ($i = self::firstFrom($spans, $event->in - ($this->longest[$media] ?? 0)), $n = count($spans); $i < $n && $spans[$i][0] < $event->out; ++$i) {
            if ($spans[$i][0] === $event->in && $spans[$i][1] === $event->out) {
                return [$i, $event->length()];
            }
            $shared = min($spans[$i][1], $event->out) - max($spans[$i][0], $event->in);
            if ($shared > $most) {
                [$at, $most] = [$i, $shared];
            }
        }

        return [$at, $most];
    }

    /** @param list<array{int, int, int}> $spans */
    private static function firstFrom(array $spans, int $frame): int
    {
        [$low, $high] = [0, count($spans)];
        while ($low < $high) {
            $middle = intdiv($low + $high, 2);
            [$low, $high] = $spans[$middle][0] < $frame ? [$middle + 1, $high] : [$low, $middle];
        }

        return $low;
    }

    private static function sharedByHand(Shot $shot, CutPlace $place): int
    {
        if ($shot->footage === null) {
            return 0;
        }
        [$first, $last] = $place->frames($shot->footage->info());

        return min($shot->to, $last) - max($shot->from, $first) + 1;
    }
}
