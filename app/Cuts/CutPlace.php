<?php

declare(strict_types=1);

namespace App\Cuts;

use App\Footage\FootageInfo;
use Cossel\Core\Cut\Event;
use Cossel\Core\Cut\InvalidCut;
use Cossel\Core\Cut\Rate;
use Cossel\Core\Cut\Timecode;

/** Where a shot stands in a cut: its event, and the handles it was brought in with. Kept with the shot. */
final readonly class CutPlace
{
    public function __construct(public Event $event, public Rate $rate, public int $handles, public bool $isRetired = false) {}

    /** @param array<string, mixed> $kept as {@see document} gives it */
    public static function of(array $kept): self
    {
        $event = new Event($kept['number'], $kept['name'], $kept['file'], $kept['reel'], $kept['in'], $kept['out'], $kept['at'], $kept['start'], $kept['told']);

        return new self($event, Rate::parse($kept['rate']), $kept['handles'], $kept['retired']);
    }

    /** @return array<string, mixed> */
    public function document(): array
    {
        return [...get_object_vars($this->event), 'rate' => $this->rate->text(), 'handles' => $this->handles, 'retired' => $this->isRetired];
    }

    /** No longer part of the cut; the shot stays. */
    public function retired(): self
    {
        return new self($this->event, $this->rate, $this->handles, true);
    }

    /** Whether a file of this name is the one it is cut from. */
    public function isOf(string $name): bool
    {
        return in_array(self::mediaName($name), $this->media(), true);
    }

    /** @return list<string> what its media may be known by, as {@see mediaName} gives it */
    public function media(): array
    {
        return array_map(self::mediaName(...), $this->event->names());
    }

    /** What a file is known by: its name without folders and ending, in small letters. */
    public static function mediaName(string $name): string
    {
        return pathinfo(mb_strtolower(basename($name)), PATHINFO_FILENAME);
    }

    /**
     * The frames of the event in its footage, without handles.
     *
     * @return array{int, int} first and last, which may lie outside the footage
     */
    public function frames(FootageInfo $footage): array
    {
        $start = $this->event->start ?? self::begins($footage, $this->rate);
        $scale = $footage->fps() / $this->rate->fps();
        $scale = abs($scale - 1.0) < 1e-3 ? 1.0 : $scale;

        return [(int) round(($this->event->in - $start) * $scale), (int) round(($this->event->out - $start) * $scale) - 1];
    }

    /**
     * The frames of the shot that is made of it: with handles, as far as the footage reaches.
     *
     * @return array{int, int}|null null where the footage does not hold the event
     */
    public function span(FootageInfo $footage): ?array
    {
        [$first, $last] = $this->frames($footage);
        $end = $footage->frames() - 1;

        return $first < 0 || $last > $end ? null : [max(0, $first - $this->handles), min($end, $last + $this->handles)];
    }

    /** The timecode of the footage's first frame, counted in frames; 0 where it has none. */
    private static function begins(FootageInfo $footage, Rate $rate): int
    {
        try {
            return Timecode::parse((string) $footage->timecode, $rate->base())->count;
        } catch (InvalidCut) {
            return 0;
        }
    }
}
