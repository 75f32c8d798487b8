<?php

declare(strict_types=1);

namespace App\Footage;

/** What the head of a picture of a sequence tells that its pixels do not. */
final readonly class PictureHeader
{
    /**
     * @param string|null $rate     frames a second as a fraction
     * @param string|null $timecode of this picture
     * @param string|null $transfer as ffmpeg names it; null for light that is linear
     * @param string|null $doubt    what it says that can hardly be so, in a sentence
     * @param array{int, int}|null $size width and height; null where it does not tell
     * @param int|null             $rows how many are whole in a file that ends early, 0 where that cannot be told; null in a whole one, and where whoever decodes it tells
     */
    public function __construct(
        public ?string $rate = null,
        public ?string $timecode = null,
        public ?string $transfer = 'iec61966-2-1',
        public ?string $doubt = null,
        public ?array $size = null,
        public ?int $rows = null,
    ) {}

    /** @param array<string, mixed> $facts by the names of what is told */
    public function with(array $facts): self
    {
        return new self(...[...get_object_vars($this), ...$facts]);
    }

    /** Hours to frames in binary coded decimals (SMPTE ST 12-1), as OpenEXR and DPX keep them. */
    public static function timecode(int $bits, bool $dropFrame): ?string
    {
        $pairs = array_map(static fn(int $shift): int => 10 * ($bits >> $shift + 4 & 0xF) + ($bits >> $shift & 0xF), [24, 16, 8, 0]);
        [$hours, $minutes, $seconds, $frames] = $pairs;
        if ($hours > 23 || $minutes > 59 || $seconds > 59) {
            return null;
        }

        return sprintf('%02d:%02d:%02d%s%02d', $hours, $minutes, $seconds, $dropFrame ? ';' : ':', $frames);
    }

    public static function rate(float $fps): ?string
    {
        if ($fps < 1 || $fps > 1000) {
            return null;
        }
        $whole = round($fps);

        return match (true) {
            abs($fps - $whole) < 1e-4 => sprintf('%d/1', $whole),
            abs($fps - $whole * 1000 / 1001) < 5e-3 => sprintf('%d/1001', 1000 * $whole),
            default => sprintf('%d/1000', round(1000 * $fps)),
        };
    }
}
