<?php

declare(strict_types=1);

namespace App\Footage;

use Cossel\Core\Colour\Transfer;
use Cossel\Core\Colour\YuvMatrix;
use Cossel\Core\Picture\FrameFormat;
use Cossel\Core\Picture\Layout;

/** What is known of a piece of footage after it was probed. */
final readonly class FootageInfo
{
    /**
     * @param int                                                     $width    in square pixels, after rotation
     * @param string                                                  $rate     frames a second as a fraction
     * @param list<int>                                               $times    each frame's time in units of $timeBase
     * @param float                                                   $start    time at which the container begins, seconds
     * @param array<string, string>                                   $tags     colour tags as found: space, transfer, primaries, range
     * @param array{codec: string, channels: int, rate: int}|null     $audio
     * @param list<string>                                            $notes    what the user should know, in sentences
     * @param list<string>                                            $damage   what is missing or torn, in sentences with the frames
     */
    public function __construct(
        public int $width,
        public int $height,
        public string $rate,
        public bool $variable,
        public array $times,
        public string $timeBase,
        public float $start,
        public string $codec,
        public string $pixelFormat,
        public int $bits,
        public Layout $layout,
        public YuvMatrix $matrix,
        public bool $fullRange,
        public Transfer $transfer,
        public array $tags,
        public ?string $timecode,
        public ?array $audio,
        public array $notes,
        public array $damage = [],
    ) {}

    public function frames(): int
    {
        return count($this->times);
    }

    public function format(): FrameFormat
    {
        return new FrameFormat($this->width, $this->height, $this->layout, $this->matrix, $this->fullRange, $this->transfer);
    }

    /** Time of a frame in seconds, on the container's own clock. */
    public function seconds(int $frame): float
    {
        return $this->times[$frame] * self::fraction($this->timeBase);
    }

    /** Frames a second. */
    public function fps(): float
    {
        return self::fraction($this->rate);
    }

    public static function fraction(string $fraction): float
    {
        [$n, $d] = array_map(floatval(...), explode('/', $fraction)) + [1 => 1.0];

        return $d > 0 ? $n / $d : 0.0;
    }

    /** @param list<string> $damage known from elsewhere */
    public function withDamage(array $damage): self
    {
        return $damage === [] ? $this : self::fromArray([...$this->toArray(), 'damage' => [...$damage, ...$this->damage]]);
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return [
            ...get_object_vars($this),
            'layout' => $this->layout->value,
            'matrix' => $this->matrix->value,
            'transfer' => $this->transfer->value,
        ];
    }

    /** @param array<string, mixed> $info as toArray gives it */
    public static function fromArray(array $info): self
    {
        return new self(...[
            ...$info,
            'start' => (float) $info['start'],
            'layout' => Layout::from($info['layout']),
            'matrix' => YuvMatrix::from($info['matrix']),
            'transfer' => Transfer::from($info['transfer']),
        ]);
    }
}
