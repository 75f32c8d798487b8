<?php

declare(strict_types=1);

namespace Cossel\Core\Carry;

use Cossel\Core\Recipe\Key;
use Cossel\Core\Recipe\Keyed;
use Cossel\Core\Recipe\Live;

/** Frames of one shot as those of another, which may be longer or shorter: the first goes to the first, the last to the last. */
final readonly class Span
{
    /**
     * @param array{int, int} $from first and last frame
     * @param array{int, int} $to
     */
    public function __construct(private array $from, private array $to) {}

    public function frame(int $frame): int
    {
        $length = max(1, $this->from[1] - $this->from[0]);
        $mapped = $this->to[0] + ($frame - $this->from[0]) * ($this->to[1] - $this->to[0]) / $length;

        return (int) max($this->to[0], min($this->to[1], round($mapped)));
    }

    /** Keyframes that fall together become the last of them. */
    public function keyed(Keyed $keyed): Keyed
    {
        $keys = [];
        foreach ($keyed->keys as $key) {
            $frame = $this->frame($key->frame);
            $keys[$frame] = new Key($frame, $key->value, $key->ease);
        }

        return new Keyed($keyed->value, array_values($keys));
    }

    /** The whole shot stays the whole shot; fades keep their length. */
    public function live(Live $live): Live
    {
        return new Live(
            $live->from <= $this->from[0] ? $this->to[0] : $this->frame($live->from),
            $live->to >= $this->from[1] ? $this->to[1] : $this->frame($live->to),
            $live->fadeIn,
            $live->fadeOut,
        );
    }
}
