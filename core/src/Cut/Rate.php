<?php

declare(strict_types=1);

namespace Cossel\Core\Cut;

/** Frames a second as a fraction: 24000/1001 is what is written as 23.976 or 23.98. */
final readonly class Rate
{
    private const NTSC = 1001;
    /** How far a written rate may be from the one that is meant. */
    private const NEAR = 0.006;

    private function __construct(public int $frames, public int $seconds) {}

    /** @throws InvalidCut unless it is a fraction such as 24000/1001 */
    public static function parse(string $fraction): self
    {
        if (preg_match('#^([1-9]\d{0,8})/([1-9]\d{0,8})\z#', $fraction, $m) !== 1) {
            throw InvalidCut::at('', "“{$fraction}” is no rate such as 24000/1001");
        }

        return new self((int) $m[1], (int) $m[2]);
    }

    /** The rate that is meant by a decimal number. */
    public static function near(float $fps): self
    {
        $whole = max(1, (int) round($fps));
        $ntsc = $whole * 1000 / self::NTSC;
        if (abs($fps - $whole) > 1e-4 && abs($fps - $ntsc) < self::NEAR) {
            return new self($whole * 1000, self::NTSC);
        }

        return abs($fps - $whole) < 1e-4 ? new self($whole, 1) : new self((int) round($fps * 1000), 1000);
    }

    public function fps(): float
    {
        return $this->frames / $this->seconds;
    }

    /** Frames that timecode counts in a second. */
    public function base(): int
    {
        return (int) round($this->fps());
    }

    public function text(): string
    {
        return "{$this->frames}/{$this->seconds}";
    }

    public function is(self $other): bool
    {
        return $this->frames * $other->seconds === $other->frames * $this->seconds;
    }
}
