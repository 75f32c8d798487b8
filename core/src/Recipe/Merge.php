<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/**
 * Two edits of the same document, made without knowing of each other, put together. Lists of things with ids are
 * merged thing by thing; where both changed the same value differently there is no answer.
 */
final class Merge
{
    /**
     * @param mixed $base   the document both started from
     * @param mixed $mine   one edit
     * @param mixed $theirs the other
     *
     * @throws MergeConflict
     */
    public static function of(mixed $base, mixed $mine, mixed $theirs, string $pointer = ''): mixed
    {
        if (self::same($mine, $theirs) || self::same($theirs, $base)) {
            return $mine;
        }
        if (self::same($mine, $base)) {
            return $theirs;
        }
        if (!is_array($base) || !is_array($mine) || !is_array($theirs)) {
            throw MergeConflict::at($pointer);
        }
        if (self::hasIds($base) && self::hasIds($mine) && self::hasIds($theirs)) {
            return self::lists($base, $mine, $theirs, $pointer);
        }
        if (array_is_list($mine) || array_is_list($theirs)) {
            throw MergeConflict::at($pointer);
        }

        return self::fields($base, $mine, $theirs, $pointer);
    }

    /**
     * @param array<mixed> $base
     * @param array<mixed> $mine
     * @param array<mixed> $theirs
     *
     * @return array<mixed>
     */
    private static function fields(array $base, array $mine, array $theirs, string $pointer): array
    {
        $merged = [];
        foreach (array_keys($mine + $theirs) as $key) {
            $place = "{$pointer}/{$key}";
            $inMine = array_key_exists($key, $mine);
            $inTheirs = array_key_exists($key, $theirs);
            if ($inMine && $inTheirs) {
                $merged[$key] = self::of($base[$key] ?? null, $mine[$key], $theirs[$key], $place);
            } elseif (!array_key_exists($key, $base)) {
                $merged[$key] = $inMine ? $mine[$key] : $theirs[$key];
            } elseif (!self::same($inMine ? $mine[$key] : $theirs[$key], $base[$key])) {
                // One took it away while the other changed it.
                throw MergeConflict::at($place);
            }
        }

        return $merged;
    }

    /**
     * @param array<mixed> $base
     * @param array<mixed> $mine
     * @param array<mixed> $theirs
     *
     * @return list<mixed>
     */
    private static function lists(array $base, array $mine, array $theirs, string $pointer): array
    {
        [$b, $m, $t] = array_map(static fn(array $list): array => array_column($list, null, 'id'), [$base, $mine, $theirs]);
        $merged = self::fields($b, $m, $t, $pointer);
        $all = array_keys(array_intersect_key($b, $m, $t));
        $common = static fn(array $by): array => array_values(array_intersect(array_keys($by), $all));
        [$was, $here, $there] = [$common($b), $common($m), $common($t)];
        if ($here !== $was && $there !== $was && $here !== $there) {
            throw MergeConflict::at($pointer);
        }
        $order = $here !== $was ? [...array_keys($m), ...array_keys($t)] : [...array_keys($t), ...array_keys($m)];

        return array_values(array_map(
            static fn(int|string $id): mixed => $merged[$id],
            array_filter(array_unique($order), static fn(int|string $id): bool => array_key_exists($id, $merged)),
        ));
    }

    /** Whether two values say the same: numbers by what they are worth, fields in any order, all else to the letter. */
    private static function same(mixed $a, mixed $b): bool
    {
        if (is_array($a) && is_array($b)) {
            if (count($a) !== count($b) || array_is_list($a) !== array_is_list($b)) {
                return false;
            }
            foreach ($a as $key => $value) {
                if (!array_key_exists($key, $b) || !self::same($value, $b[$key])) {
                    return false;
                }
            }

            return true;
        }
        if ((is_int($a) || is_float($a)) && (is_int($b) || is_float($b))) {
            return (float) $a === (float) $b;
        }

        return $a === $b;
    }

    /** @param array<mixed> $list */
    private static function hasIds(array $list): bool
    {
        if (!array_is_list($list)) {
            return false;
        }
        foreach ($list as $item) {
            if (!is_array($item) || !is_string($item['id'] ?? null)) {
                return false;
            }
        }

        return true;
    }
}
