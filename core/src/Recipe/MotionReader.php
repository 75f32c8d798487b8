<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/**
 * Reads the motion of an area or of a shape.
 *
 * @internal
 */
final class MotionReader
{
    public function motion(Node $n): Motion
    {
        $n->object(['by', 'start', 'span', 'model', 'look', 'use', 'pivot', 'track', 'keys', 'on']);
        $by = $n->get('by', 'one of none, follow, ride')->word([Motion::NONE, Motion::FOLLOW, Motion::RIDE]);

        return new Motion(
            $by,
            $n->optional('start', Keyframes::frame(...), 0),
            $n->optional('span', Keyframes::span(...), [0, 0]),
            $n->optional('model', static fn(Node $v): Model => $v->oneOf(Model::class), Model::Similarity),
            $n->optional('look', self::look(...), new Look()),
            $n->optional('use', static fn(Node $v): array => array_map(
                static fn(Node $c): Channel => $c->oneOf(Channel::class),
                $v->items(0, count(Motion::WHOLE)),
            ), Motion::WHOLE),
            $n->optional('pivot', static fn(Node $v): array => $v->point(), [0.0, 0.0]),
            $n->optional(
                'track',
                static fn(Node $v): ?string => $v->isNull() ? null : $v->object(['sha256'])->get('sha256', 'a SHA-256')->sha256(),
                null,
            ),
            $n->optional('keys', static fn(Node $keys): array => Keyframes::read($keys, self::key(...)), []),
            $by === Motion::RIDE ? $n->get('on', 'the id of the area it rides on')->id() : null,
        );
    }

    private static function look(Node $n): Look
    {
        if ($n->get('by', 'one of outline, spots')->word(['outline', 'spots']) === 'outline') {
            $n->object(['by', 'margin']);

            return new Look($n->optional('margin', static fn(Node $m): float => $m->number(0, 1), 0.0));
        }
        $n->object(['by', 'spots', 'radius']);
        $spots = array_map(static fn(Node $spot): array => $spot->point(), $n->get('spots', 'one or two points')->items(1, 2));

        return new Look(0.0, $spots, $n->get('radius', 'the radius of a spot')->number(0.002, 0.5));
    }

    private static function key(Node $key): MotionKey
    {
        $key->object(['frame', 'ease', 'move', 'turn', 'scale', 'shear']);
        [$x, $y] = $key->optional('move', static fn(Node $v): array => $v->point(), [0.0, 0.0]);

        return new MotionKey(
            Keyframes::frame($key->get('frame', 'a frame')),
            $x,
            $y,
            $key->optional('turn', static fn(Node $v): float => $v->number(-3600, 3600), 0.0),
            $key->optional('scale', static fn(Node $v): float => $v->number(0.01, 100), 1.0),
            $key->optional('shear', static fn(Node $v): float => $v->number(-10, 10), 0.0),
            Keyframes::ease($key),
        );
    }
}
