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
                return [$before, $key, $before === $key ? 0.0 : $before->ease->weight(($frame - $before->frame) / ($key->frame - $before->frame))];
            }
            $before = $key;
        }

        return [$before, $before, 0.0];
    }
}
