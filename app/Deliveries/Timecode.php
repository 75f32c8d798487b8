<?php

declare(strict_types=1);

namespace App\Deliveries;

/** SMPTE ST 12-1 timecode: hours, minutes, seconds and frames, with dropped numbers at 29.97 and 59.94. */
final readonly class Timecode
{
    private function __construct(private int $count, private int $base, private bool $drop) {}

    public static function parse(string $text, float $fps): self
    {
        if (preg_match('/^(\d\d):(\d\d):(\d\d)([:;.])(\d\d)\z/', $text, $m) !== 1) {
            return new self(0, max(1, (int) round($fps)), false);
        }
        $base = max(1, (int) round($fps));
        $drop = $m[4] !== ':' && $base % 30 === 0;
        $minutes = 60 * (int) $m[1] + (int) $m[2];
        $count = (60 * $minutes + (int) $m[3]) * $base + (int) $m[5];
        if ($drop) {
            $count -= intdiv($base, 15) * ($minutes - intdiv($minutes, 10));
        }

        return new self($count, $base, $drop);
    }

    public function plus(int $frames): self
    {
        return new self($this->count + $frames, $this->base, $this->drop);
    }

    public function text(): string
    {
        $count = $this->count;
        if ($this->drop) {
            $skip = intdiv($this->base, 15);
            $inTen = 600 * $this->base - 9 * $skip;
            $inOne = 60 * $this->base - $skip;
            $rest = $count % $inTen;
            $count += 9 * $skip * intdiv($count, $inTen) + ($rest < $skip ? 0 : $skip * intdiv($rest - $skip, $inOne));
        }
        $seconds = intdiv($count, $this->base);

        return sprintf('%02d:%02d:%02d%s%02d', intdiv($seconds, 3600) % 24, intdiv($seconds, 60) % 60, $seconds % 60, $this->drop ? ';' : ':', $count % $this->base);
    }
}
