<?php

declare(strict_types=1);

namespace Cossel\Core\Render;

use Cossel\Core\Picture\Rect;

/**
 * Where two treatments of one frame make different pictures: nowhere, in a rectangle, or everywhere. Steps are compared in order;
 * what differs where is carried on through every step after it. It may say too much, never too little.
 *
 * @internal
 */
final class Change
{
    /**
     * @param list<Stage> $one
     * @param list<Stage> $other
     */
    public static function between(array $one, array $other): Rect
    {
        $changed = Rect::none();
        foreach (self::pairs($one, $other) as [$a, $b]) {
            $changed = match (true) {
                $a === null => $changed->union($b?->reach() ?? Rect::none()),
                $b === null => $changed->union($a->reach()),
                default => $a->changed($b, $changed),
            };
        }

        return $changed;
    }

    /**
     * What stands in both, side by side, and what stands in one alone, in the order it acts. Of two that changed places one counts as
     * alone on both sides.
     *
     * @template T of Stage|Act
     *
     * @param list<T> $one
     * @param list<T> $other
     *
     * @return list<array{T|null, T|null}>
     */
    public static function pairs(array $one, array $other): array
    {
        $name = static fn(Stage|Act $step): string => $step instanceof Act ? $step->id : $step->id();
        $places = array_flip(array_map($name, $other));
        $pairs = [];
        $next = 0;
        foreach ($one as $step) {
            $at = $places[$name($step)] ?? null;
            if ($at === null || $at < $next) {
                $pairs[] = [$step, null];
                continue;
            }
            for (; $next < $at; ++$next) {
                $pairs[] = [null, $other[$next]];
            }
            $pairs[] = [$step, $other[$next++]];
        }

        return [...$pairs, ...array_map(static fn(Stage|Act $step): array => [null, $step], array_slice($other, $next))];
    }
}
