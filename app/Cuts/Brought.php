<?php

declare(strict_types=1);

namespace App\Cuts;

/** What has become of a cut so far, so that bringing it in can be gone on with, and told. */
final class Brought
{
    /** Sentences told one by one at the most. */
    private const MOST = 200;
    private const COUNTED = ['new' => ['is new', 'are new'], 'known' => ['was known', 'were known'], 'retired' => ['is no longer in the cut', 'are no longer in the cut']];

    /**
     * @param int                               $done   events that are over with
     * @param array<string, int>                $counts of shots: new, known, retired
     * @param list<string>                      $told   sentences
     * @param array<string, array{string, int}> $asked  first shot and number of those that ask for media, by its name
     * @param int                               $more   sentences left out
     */
    public function __construct(public int $done = 0, private array $counts = [], private array $told = [], private array $asked = [], private int $more = 0) {}

    /** @param array<string, mixed> $kept as {@see kept} gives it */
    public static function of(array $kept): self
    {
        return new self($kept['done'], $kept['counts'], $kept['told'], $kept['asked'], $kept['more']);
    }

    /** @return array<string, mixed> */
    public function kept(): array
    {
        return get_object_vars($this);
    }

    /** @param 'new'|'known'|'retired' $what */
    public function count(string $what): void
    {
        $this->counts[$what] = ($this->counts[$what] ?? 0) + 1;
    }

    public function tell(string ...$sentences): void
    {
        $room = max(0, self::MOST - count($this->told));
        array_push($this->told, ...array_slice($sentences, 0, $room));
        $this->more += max(0, count($sentences) - $room);
    }

    public function ask(string $shot, string $media): void
    {
        if (!isset($this->asked[$media]) && count($this->asked) >= self::MOST) {
            ++$this->more;

            return;
        }
        $this->asked[$media] = [$this->asked[$media][0] ?? $shot, 1 + ($this->asked[$media][1] ?? 0)];
    }

    /** @return list<string> */
    public function sentences(): array
    {
        $asked = array_map(static fn(string $media, array $by): string => $by[1] === 1 ? "{$by[0]} asks for {$media}." : sprintf('%s and %d more ask for %s.', $by[0], $by[1] - 1, $media), array_map(strval(...), array_keys($this->asked)), $this->asked);

        return [$this->counted(), ...$asked, ...$this->told, ...($this->more === 0 ? [] : ["{$this->more} more like these; each shot says so itself."])];
    }

    private function counted(): string
    {
        $told = [];
        foreach (self::COUNTED as $what => $words) {
            $n = $this->counts[$what] ?? 0;
            $shots = $told !== [] ? '' : ($n === 1 ? ' shot' : ' shots');
            $n === 0 || $told[] = "{$n}{$shots} " . $words[$n === 1 ? 0 : 1];
        }

        return implode(', ', $told) . '.';
    }
}
