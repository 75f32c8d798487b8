<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/**
 * Reads what any part of a recipe may have: frames, keyframes and numbers that change over the shot.
 *
 * @internal
 */
final class Keyframes
{
    private const MOST = 20_000;

    public static function keyed(Node $n, float $least, float $most): Keyed
    {
        if (!$n->isObject()) {
            return new Keyed($n->number($least, $most));
        }
        $n->object(['value', 'keys']);

        return new Keyed(
            $n->get('value', 'a number')->number($least, $most),
            $n->optional('keys', static fn(Node $keys): array => self::numbers($keys, $least, $most), []),
        );
    }

    /** @return list<Key> */
    public static function numbers(Node $n, float $least, float $most): array
    {
        return self::read($n, static function (Node $key) use ($least, $most): Key {
            $key->object(['frame', 'value', 'ease']);

            return new Key(
                self::frame($key->get('frame', 'a frame')),
                $key->get('value', 'a number')->number($least, $most),
                self::ease($key),
            );
        });
    }

    /**
     * @template K of Key|ShapeKey|MotionKey
     *
     * @param callable(Node): K $read
     *
     * @return list<K> by rising frame
     */
    public static function read(Node $n, callable $read): array
    {
        $keys = [];
        $last = -1;
        foreach ($n->items(0, self::MOST) as $item) {
            $key = $read($item);
            if ($key->frame <= $last) {
                throw $item->get('frame')->unexpected("a frame after {$last}");
            }
            $last = $key->frame;
            $keys[] = $key;
        }

        return $keys;
    }

    public static function frame(Node $n): int
    {
        return $n->whole(0, RecipeReader::MAX_FRAME);
    }

    /** @return array{int, int} */
    public static function span(Node $n): array
    {
        [$from, $to] = $n->items(2, 2);
        $first = self::frame($from);

        return [$first, $to->whole($first, RecipeReader::MAX_FRAME)];
    }

    public static function ease(Node $key): Ease
    {
        return $key->optional('ease', static fn(Node $v): Ease => $v->oneOf(Ease::class), Ease::Smooth);
    }
}
