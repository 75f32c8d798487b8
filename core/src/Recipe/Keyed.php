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
        if ($this->keys === []) {
            return $this->value;
        }
        [$before, $after, $t] = self::between($this->keys, $frame);

        return $before->value + ($after->value - $before->value) * $t;
    }

    /** With every value so many times what it is. */
    public function times(float $share): self
    {
        return $this->each(static fn(float $v): float => round($v * $share, 3));
    }

    /** Without keyframes, at the mean of theirs. */
    public function evened(): self
    {
        return $this->keys === []
            ? $this
            : new self(round(array_sum(array_map(static fn(Key $key): float => $key->value, $this->keys)) / count($this->keys), 3));
    }

    /**
     * With every value changed alike.
     *
     * @param callable(float): float $change
     */
    public function each(callable $change): self
    {
        return new self(
            $change($this->value),
            array_map(static fn(Key $key): Key => new Key($key->frame, $change($key->value), $key->ease), $this->keys),
        );
    }

    /**
     * The keyframes a frame lies between and how far it is from the one to the other, eased. Before the first and after
     * the last, values stand still.
     *
     * @template K of Key|ShapeKey|MotionKey
     *
     * @param non-empty-list<K> $keys by rising frame
     *
     * @return array{K, K, float}
     */
    public static function between(array $keys, int $frame): array
    {
        $before = $keys[0];
        foreach ($keys as $key) {
            if ($key->frame > $frame) {
                return [
                    $before,
                    $key,
                    $before === $key ? 0.0 : $before->ease->weight(($frame - $before->frame) / ($key->frame - $before->frame)),
                ];
            }
            $before = $key;
        }

        return [$before, $before, 0.0];
    }
}
