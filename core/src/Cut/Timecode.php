<?php

declare(strict_types=1);

namespace Cossel\Core\Cut;

/** SMPTE ST 12-1 timecode: hours, minutes, seconds and frames; with dropped numbers at 29.97 and 59.94. */
final readonly class Timecode
{
    private function __construct(public int $count, private int $base, public bool $drop) {}

    /** @throws InvalidCut unless it is one, with numbers that there are */
    public static function parse(string $text, int $base): self
    {
        if (preg_match('/^(\d\d):(\d\d):(\d\d)([:;.,])(\d\d)\z/', $text, $m) !== 1) {
            throw InvalidCut::at('', "“{$text}” is no timecode such as 01:00:00:00");
        }
        [$hours, $minutes, $seconds, $frames] = [(int) $m[1], (int) $m[2], (int) $m[3], (int) $m[5]];
        $drop = $m[4] !== ':' && $base % 30 === 0;
        if ($minutes > 59 || $seconds > 59 || $frames >= $base) {
            throw InvalidCut::at('', "“{$text}” is no timecode of {$base} frames a second");
        }
        $count = (60 * (60 * $hours + $minutes) + $seconds) * $base + $frames;
        if ($drop) {
            $dropped = intdiv($base, 15);
            if ($seconds === 0 && $frames < $dropped && $minutes % 10 !== 0) {
                throw InvalidCut::at('', "“{$text}” is a number that drop frame timecode leaves out");
            }
            $total = 60 * $hours + $minutes;
            $count -= $dropped * ($total - intdiv($total, 10));
        }

        return new self($count, $base, $drop);
    }

    public static function at(int $count, int $base, bool $drop = false): self
    {
        return new self($count, $base, $drop && $base % 30 === 0);
    }

    public function plus(int $frames): self
    {
        return new self($this->count + $frames, $this->base, $this->drop);
    }

    /** The inverse of {@see parse}; after A. Duncan's public algorithm for dropped numbers. */
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
        $last = ($this->drop ? ';' : ':') . sprintf('%02d', $count % $this->base);

        return sprintf('%02d:%02d:%02d', intdiv($seconds, 3600) % 24, intdiv($seconds, 60) % 60, $seconds % 60) . $last;
    }
}
