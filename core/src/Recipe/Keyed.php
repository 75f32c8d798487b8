<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/**
 * A number that may change over the shot: one value, or keyframes with values blended in between.
 */
final readonly class Keyed
{
    /** @param list<Key> $keys by rising frame */
    public function __construct(public float $value, public array $keys = []) {}

    public function at(int $frame): float
    {
        return self::blend($this->keys, $frame, static fn(Key $key): float => $key->value) ?? $this->value;
    }

    /** Whether it is this value on every frame. */
    public function isAlways(float $value): bool
    {
        if ($this->keys === []) {
            return $this->value === $value;
        }
        foreach ($this->keys as $key) {
            if ($key->value !== $value) {
                return false;
            }
        }

        return true;
    }

    /**
     * The value between the neighbouring keyframes of a frame; before the first and after the last it stands still.
     * Keyframes for which $value gives null do not set this value and are passed over.
     *
     * @template K of Key|ShapeKey|MotionKey
     *
     * @param list<K>                 $keys
     * @param callable(K): (float|null) $value
     */
    public static function blend(array $keys, int $frame, callable $value): ?float
    {
        $before = null;
        foreach ($keys as $key) {
            $v = $value($key);
            if ($v === null) {
                continue;
            }
            if ($key->frame >= $frame) {
                if ($before === null || $key->frame === $frame) {
                    return $v;
                }
                [$start, $from, $ease] = $before;

                return $from + ($v - $from) * $ease->weight(($frame - $start) / ($key->frame - $start));
            }
            $before = [$key->frame, $v, $key->ease];
        }

        return $before[1] ?? null;
    }
}
