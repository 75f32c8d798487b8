<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/**
 * Reads an area's outline.
 *
 * @internal
 */
final class OutlineReader
{
    private const MAX_SHAPES = 100;
    public const MAX_POINTS = 500;
    private const EDGE = ['featherIn', 'featherOut', 'grow', 'opacity'];

    public function __construct(private readonly MotionReader $motions) {}

    public function outline(Node $n): Outline
    {
        $n->object(['at', 'invert', 'shapes']);

        return new Outline(
            Keyframes::frame($n->get('at', 'a frame')),
            $n->optional('shapes', fn(Node $v): array => array_map($this->shape(...), $v->items(0, self::MAX_SHAPES)), []),
            $n->optional('invert', static fn(Node $v): bool => $v->flag(), false),
        );
    }

    private function shape(Node $n): Shape
    {
        return match ($n->get('kind', 'a kind of shape')->word([Ellipse::KIND, Box::KIND, Path::KIND, AreaShape::KIND, People::KIND])) {
            Ellipse::KIND => $this->made(Ellipse::class, $n, ['centre', 'radii', 'turn'], ['centre', 'radii']),
            Box::KIND => $this->made(Box::class, $n, ['centre', 'radii', 'turn', 'round'], ['centre', 'radii']),
            Path::KIND => $this->made(Path::class, $n, ['points'], ['points']),
            People::KIND => self::people($n),
            default => self::area($n),
        };
    }

    /**
     * @param class-string<Ellipse|Box|Path> $class
     * @param list<string>                   $own   the fields only this kind has
     * @param list<string>                   $needed
     */
    private function made(string $class, Node $n, array $own, array $needed): Shape
    {
        $keyed = [...$own, ...self::EDGE];
        $n->object(['id', 'kind', 'join', ...$keyed, 'keys', 'motion']);
        foreach ($needed as $field) {
            $n->get($field, $field === 'points' ? 'the points of the path' : 'two numbers');
        }
        $values = self::values($n, $keyed);
        $points = count($values['points'] ?? []);
        $motion = $n->optional('motion', fn(Node $v): ?Motion => $v->isNull() ? null : $this->motions->motion($v), null);

        return new $class(...[
            'id' => $n->get('id', 'an id')->id(),
            ...$values,
            'join' => self::join($n),
            'keys' => self::keys($n, $keyed, $points),
            'motion' => $motion,
        ]);
    }

    private static function area(Node $n): AreaShape
    {
        $n->object(['id', 'kind', 'join', 'of', 'opacity', 'keys']);

        return new AreaShape(
            $n->get('id', 'an id')->id(),
            $n->get('of', 'the id of an area')->id(),
            $n->optional('opacity', static fn(Node $v): float => $v->number(0, 1), 1.0),
            self::join($n),
            self::keys($n, ['opacity'], 0),
        );
    }

    private static function people(Node $n): People
    {
        $n->object(['id', 'kind', 'join', 'place', ...self::EDGE, 'keys']);

        return new People(...[
            'id' => $n->get('id', 'an id')->id(),
            'place' => $n->optional('place', static fn(Node $v): ?array => $v->isNull() ? null : $v->point(), null),
            ...self::values($n, self::EDGE),
            'join' => self::join($n),
            'keys' => self::keys($n, self::EDGE, 0),
        ]);
    }

    private static function join(Node $n): Join
    {
        return $n->optional('join', static fn(Node $v): Join => $v->oneOf(Join::class), Join::Add);
    }

    /**
     * @param list<string> $fields
     *
     * @return list<ShapeKey>
     */
    private static function keys(Node $n, array $fields, int $points): array
    {
        $read = static function (Node $key) use ($fields, $points): ShapeKey {
            $key->object(['frame', 'ease', ...$fields]);
            $values = self::values($key, $fields);
            if (isset($values['points']) && count($values['points']) !== $points) {
                throw $key->get('points')->unexpected("{$points} points, as the path has");
            }

            return new ShapeKey(Keyframes::frame($key->get('frame', 'a frame')), $values, Keyframes::ease($key));
        };

        return $n->optional('keys', static fn(Node $keys): array => Keyframes::read($keys, $read), []);
    }

    /**
     * @param list<string> $fields
     *
     * @return array<string, mixed> those that are there
     */
    private static function values(Node $n, array $fields): array
    {
        $values = [];
        foreach ($fields as $field) {
            if ($n->has($field)) {
                $values[$field] = self::value($n->get($field), $field);
            }
        }

        return $values;
    }

    private static function value(Node $n, string $field): mixed
    {
        return match ($field) {
            'centre' => $n->point(),
            'radii' => $n->pair(0.0005, 20),
            'turn' => $n->number(-3600, 3600),
            'grow' => $n->number(-1, 1),
            'points' => array_map(self::point(...), $n->items(2, self::MAX_POINTS)),
            default => $n->number(0, 1),
        };
    }

    private static function point(Node $n): PathPoint
    {
        $n->object(['at', 'in', 'out']);
        $none = static fn(Node $v): array => $v->point();

        return new PathPoint(
            ...$n->get('at', 'a point')->point(),
            ...$n->optional('in', $none, [0.0, 0.0]),
            ...$n->optional('out', $none, [0.0, 0.0]),
        );
    }
}
