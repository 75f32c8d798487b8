<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** Some values of a shape, set by hand on a frame. */
final readonly class ShapeKey
{
    /** @param array<string, mixed> $values by the shape's own field names: numbers, pairs or path points */
    public function __construct(public int $frame, public array $values, public Ease $ease = Ease::Smooth) {}

    /**
     * A value between the keyframes that set it, point by point where it is made of points; null if none sets it.
     *
     * @param list<self> $keys by rising frame
     */
    public static function blend(array $keys, int $frame, string $field): mixed
    {
        $setting = array_values(array_filter($keys, static fn(self $key): bool => array_key_exists($field, $key->values)));
        if ($setting === []) {
            return null;
        }
        [$before, $after, $t] = Keyed::between($setting, $frame);

        return $t === 0.0 ? $before->values[$field] : self::mixed($before->values[$field], $after->values[$field], $t);
    }

    private static function mixed(mixed $a, mixed $b, float $t): mixed
    {
        return match (true) {
            is_array($a) => array_map(static fn(mixed $x, mixed $y): mixed => self::mixed($x, $y, $t), $a, $b),
            $a instanceof PathPoint => $a->mixed($b, $t),
            default => $a + ($b - $a) * $t,
        };
    }
}
