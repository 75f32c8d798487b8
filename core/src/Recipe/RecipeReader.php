<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

use Cossel\Core\Touch\Kinds;

/**
 * Makes a {@see Recipe} from a decoded JSON document, or says exactly what is wrong with it.
 * The format is described in docs/recipe.md and, for machines, in docs/recipe.schema.json.
 */
final class RecipeReader
{
    public const MAX_FRAME = 1_000_000;
    public const MAX_SIZE = 8192;
    private const MAX_AREAS = 200;
    private const MAX_TOUCHES = 100;
    private const MAX_SHAPES = 100;
    private const MAX_KEYS = 20_000;

    public function __construct(private readonly Kinds $kinds) {}

    /**
     * @param mixed $document as json_decode(…, true) gives it
     *
     * @throws InvalidRecipe
     */
    public function read(mixed $document): Recipe
    {
        $root = Node::root($document)->object(['cossel', 'space', 'source', 'assets', 'base', 'areas', 'finish']);
        $root->get('cossel', Recipe::FORMAT)->word([Recipe::FORMAT]);
        $root->optional('space', static fn(Node $n): string => $n->word(['bt709']), 'bt709');
        $recipe = new Recipe(
            $this->source($root->get('source', 'the footage it was made for')),
            $root->optional('assets', $this->assets(...), []),
            $root->optional('base', $this->frameTouches(...), []),
            $root->optional('areas', $this->areas(...), []),
            $root->optional('finish', $this->frameTouches(...), []),
        );
        $this->checkIds($root);
        $this->checkRides($recipe);

        return $recipe;
    }

    private function source(Node $n): Source
    {
        $n->object(['sha256', 'span', 'rate', 'size']);
        [$w, $h] = $n->get('size', 'width and height')->items(2, 2);

        return new Source(
            $n->get('sha256', 'a SHA-256')->sha256(),
            $this->span($n->get('span', 'first and last frame')),
            $n->get('rate', 'a rate such as 24/1')->matching('#^[1-9][0-9]{0,8}/[1-9][0-9]{0,8}\z#', 'a rate such as 24/1'),
            [$w->whole(1, self::MAX_SIZE), $h->whole(1, self::MAX_SIZE)],
        );
    }

    /** @return array<string, array{sha256: string, kind: string}> */
    private function assets(Node $n): array
    {
        $assets = [];
        foreach ($n->object($n->fields())->fields() as $name) {
            $asset = $n->get($name)->object(['sha256', 'kind']);
            $assets[$name] = ['sha256' => $asset->get('sha256', 'a SHA-256')->sha256(), 'kind' => $asset->get('kind', 'a kind')->id()];
        }

        return $assets;
    }

    /** @return list<Area> */
    private function areas(Node $n): array
    {
        return array_map($this->area(...), $n->items(0, self::MAX_AREAS));
    }

    private function area(Node $n): Area
    {
        $n->object(['id', 'name', 'part', 'person', 'on', 'outline', 'motion', 'pick', 'live', 'strength', 'blinkGuard', 'pair', 'touches']);
        foreach (['pick', 'pair'] as $later) {
            $n->optional($later, static fn(Node $v): bool => $v->isNull() ?: throw $v->unexpected('null'), true);
        }
        $n->optional('blinkGuard', static function (Node $v): bool {
            $v->object(['on', 'keys']);
            $v->get('on')->flag() && throw $v->get('on')->unexpected('false');
            $v->optional('keys', static fn(Node $keys): array => $keys->items(0, 0), []);

            return false;
        }, false);

        return new Area(
            $n->get('id', 'an id')->id(),
            $n->get('name', 'a name')->text(),
            $n->optional('part', static fn(Node $v): string => $v->id(), 'other'),
            $n->optional('person', static fn(Node $v): ?string => $v->isNull() ? null : $v->id(), null),
            $n->optional('on', static fn(Node $v): bool => $v->flag(), true),
            $this->outline($n->get('outline', 'an outline')),
            $n->optional('motion', $this->motion(...), new Motion()),
            $this->live($n->get('live', 'the live span')),
            $n->optional('strength', static fn(Node $v): Keyed => self::keyed($v, 0, 1), new Keyed(1.0)),
            $n->optional('touches', $this->areaTouches(...), []),
        );
    }

    private function outline(Node $n): Outline
    {
        $n->object(['at', 'invert', 'shapes']);

        return new Outline(
            $n->get('at', 'a frame')->whole(0, self::MAX_FRAME),
            $n->optional('shapes', fn(Node $v): array => array_map($this->ellipse(...), $v->items(0, self::MAX_SHAPES)), []),
            $n->optional('invert', static fn(Node $v): bool => $v->flag(), false),
        );
    }

    private function ellipse(Node $n): Ellipse
    {
        $n->object(['id', 'kind', 'join', ...Ellipse::KEYED, 'keys']);
        $n->get('kind', 'ellipse')->word(['ellipse']);
        $number = static function (string $field, float $default) use ($n): float {
            return $n->optional($field, static fn(Node $v): float => self::ellipseNumber($v, $field), $default);
        };

        return new Ellipse(
            $n->get('id', 'an id')->id(),
            $n->get('centre', 'a point')->pair(-20, 20),
            self::radii($n->get('radii', 'two half axes')),
            $number('turn', 0.0),
            $number('featherIn', 0.0),
            $number('featherOut', 0.0),
            $number('grow', 0.0),
            $number('opacity', 1.0),
            $n->optional('join', static fn(Node $v): Join => $v->oneOf(Join::class), Join::Add),
            $n->optional('keys', static fn(Node $keys): array => self::keyframes($keys, static function (Node $key): ShapeKey {
                $key->object(['frame', 'ease', ...Ellipse::KEYED]);
                $values = [];
                foreach (Ellipse::KEYED as $field) {
                    if ($key->has($field)) {
                        $values[$field] = self::ellipseValue($key->get($field), $field);
                    }
                }

                return new ShapeKey(self::frame($key), $values, self::ease($key));
            }), []),
        );
    }

    /** @return float|array{float, float} */
    private static function ellipseValue(Node $n, string $field): float|array
    {
        return match ($field) {
            'centre' => $n->pair(-20, 20),
            'radii' => self::radii($n),
            default => self::ellipseNumber($n, $field),
        };
    }

    private static function ellipseNumber(Node $n, string $field): float
    {
        return match ($field) {
            'turn' => $n->number(-3600, 3600),
            'grow' => $n->number(-1, 1),
            default => $n->number(0, 1),
        };
    }

    /** @return array{float, float} */
    private static function radii(Node $n): array
    {
        return $n->pair(0.0005, 20);
    }

    private function motion(Node $n): Motion
    {
        $n->object(['by', 'start', 'span', 'model', 'look', 'use', 'pivot', 'track', 'keys', 'on']);
        $by = $n->get('by', 'one of none, follow, ride')->word([Motion::NONE, Motion::FOLLOW, Motion::RIDE]);
        $whole = [Channel::Position, Channel::Rotation, Channel::Scale];

        return new Motion(
            $by,
            $n->optional('start', static fn(Node $v): int => $v->whole(0, self::MAX_FRAME), 0),
            $n->optional('span', $this->span(...), [0, 0]),
            $n->optional('model', static fn(Node $v): Model => $v->oneOf(Model::class), Model::Similarity),
            $n->optional('look', static function (Node $v): float {
                $v->object(['by', 'margin'])->get('by', 'outline')->word(['outline']);

                return $v->optional('margin', static fn(Node $m): float => $m->number(0, 1), 0.0);
            }, 0.0),
            $n->optional('use', static fn(Node $v): array => array_map(static fn(Node $c): Channel => $c->oneOf(Channel::class), $v->items(0, 3)), $whole),
            $n->optional('pivot', static fn(Node $v): array => $v->pair(-20, 20), [0.0, 0.0]),
            $n->optional('track', static fn(Node $v): ?string => $v->isNull() ? null : $v->object(['sha256'])->get('sha256', 'a SHA-256')->sha256(), null),
            $n->optional('keys', static fn(Node $keys): array => self::keyframes($keys, static function (Node $key): MotionKey {
                $key->object(['frame', 'ease', 'move', 'turn', 'scale']);
                [$x, $y] = $key->optional('move', static fn(Node $v): array => $v->pair(-20, 20), [0.0, 0.0]);

                return new MotionKey(
                    self::frame($key),
                    $x,
                    $y,
                    $key->optional('turn', static fn(Node $v): float => $v->number(-3600, 3600), 0.0),
                    $key->optional('scale', static fn(Node $v): float => $v->number(0.01, 100), 1.0),
                    self::ease($key),
                );
            }), []),
            $by === Motion::RIDE ? $n->get('on', 'the id of the area it rides on')->id() : null,
        );
    }

    private function live(Node $n): Live
    {
        $n->object(['from', 'to', 'fadeIn', 'fadeOut']);
        $from = $n->get('from', 'a frame')->whole(0, self::MAX_FRAME);

        return new Live(
            $from,
            $n->get('to', 'a frame')->whole($from, self::MAX_FRAME),
            $n->optional('fadeIn', static fn(Node $v): int => $v->whole(0, self::MAX_FRAME), 0),
            $n->optional('fadeOut', static fn(Node $v): int => $v->whole(0, self::MAX_FRAME), 0),
        );
    }

    /** @return list<Touch> */
    private function frameTouches(Node $n): array
    {
        return array_map(fn(Node $v): Touch => $this->touch($v, false), $n->items(0, self::MAX_TOUCHES));
    }

    /** @return list<Touch> */
    private function areaTouches(Node $n): array
    {
        return array_map(fn(Node $v): Touch => $this->touch($v, true), $n->items(0, self::MAX_TOUCHES));
    }

    private function touch(Node $n, bool $inArea): Touch
    {
        $kind = $this->kinds->find($n->get('kind', 'a kind of touch')->text())
            ?? throw $n->get('kind')->unexpected('one of ' . implode(', ', $this->kinds->names()));
        $fields = ['id', 'kind', 'on', 'amount'];
        if ($inArea) {
            $fields[] = 'side';
        }
        $settings = [];
        foreach ($kind->parameters() as $parameter) {
            $fields[] = $parameter->name;
            $settings[$parameter->name] = $n->optional($parameter->name, static fn(Node $v): Keyed => self::keyed($v, $parameter->least, $parameter->most), new Keyed($parameter->neutral));
        }
        $n->object($fields);

        return new Touch(
            $n->get('id', 'an id')->id(),
            $kind,
            $settings,
            $n->optional('side', static fn(Node $v): Side => $v->oneOf(Side::class), Side::Inside),
            $n->optional('on', static fn(Node $v): bool => $v->flag(), true),
            $n->optional('amount', static fn(Node $v): Keyed => self::keyed($v, 0, 1), new Keyed(1.0)),
        );
    }

    private static function keyed(Node $n, float $least, float $most): Keyed
    {
        if (!$n->isObject()) {
            return new Keyed($n->number($least, $most));
        }
        $n->object(['value', 'keys']);

        return new Keyed(
            $n->get('value', 'a number')->number($least, $most),
            $n->optional('keys', static fn(Node $keys): array => self::keyframes($keys, static function (Node $key) use ($least, $most): Key {
                $key->object(['frame', 'value', 'ease']);

                return new Key(self::frame($key), $key->get('value', 'a number')->number($least, $most), self::ease($key));
            }), []),
        );
    }

    /**
     * @template K of Key|ShapeKey|MotionKey
     *
     * @param callable(Node): K $read
     *
     * @return list<K>
     */
    private static function keyframes(Node $n, callable $read): array
    {
        $keys = [];
        $last = -1;
        foreach ($n->items(0, self::MAX_KEYS) as $item) {
            $key = $read($item);
            if ($key->frame <= $last) {
                throw $item->get('frame')->unexpected("a frame after {$last}");
            }
            $last = $key->frame;
            $keys[] = $key;
        }

        return $keys;
    }

    private static function frame(Node $key): int
    {
        return $key->get('frame', 'a frame')->whole(0, self::MAX_FRAME);
    }

    private static function ease(Node $key): Ease
    {
        return $key->optional('ease', static fn(Node $v): Ease => $v->oneOf(Ease::class), Ease::Smooth);
    }

    /** @return array{int, int} */
    private function span(Node $n): array
    {
        [$from, $to] = $n->items(2, 2);
        $first = $from->whole(0, self::MAX_FRAME);

        return [$first, $to->whole($first, self::MAX_FRAME)];
    }

    /** Ids are unique: areas among areas, shapes and touches over the whole recipe. */
    private function checkIds(Node $root): void
    {
        $areas = [];
        $parts = [];
        $once = static function (Node $item, array &$seen): void {
            $id = $item->get('id')->id();
            if (isset($seen[$id])) {
                throw $item->get('id')->unexpected('an id used only once');
            }
            $seen[$id] = true;
        };
        foreach (['base', 'finish'] as $stage) {
            foreach ($root->optional($stage, static fn(Node $n): array => $n->items(), []) as $touch) {
                $once($touch, $parts);
            }
        }
        foreach ($root->optional('areas', static fn(Node $n): array => $n->items(), []) as $area) {
            $once($area, $areas);
            $shapes = $area->get('outline')->optional('shapes', static fn(Node $n): array => $n->items(), []);
            foreach ([...$shapes, ...$area->optional('touches', static fn(Node $n): array => $n->items(), [])] as $part) {
                $once($part, $parts);
            }
        }
    }

    private function checkRides(Recipe $recipe): void
    {
        $on = [];
        foreach ($recipe->areas as $area) {
            $on[$area->id] = $area->motion->on;
        }
        foreach ($recipe->areas as $i => $area) {
            $seen = [$area->id => true];
            for ($next = $area->motion->on; $next !== null; $next = $on[$next]) {
                if (!array_key_exists($next, $on)) {
                    throw InvalidRecipe::at("/areas/{$i}/motion/on", 'the id of an area of this recipe', $next);
                }
                if (isset($seen[$next])) {
                    throw InvalidRecipe::at("/areas/{$i}/motion/on", 'no circle of areas riding on each other', $area->motion->on);
                }
                $seen[$next] = true;
            }
        }
    }
}
