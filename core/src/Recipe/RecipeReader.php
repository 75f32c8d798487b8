<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

use Cossel\Core\Touch\Asset;
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
    /** Over the whole recipe. */
    private const MAX_PARTS = 2000;
    private const MAX_POINTS = 50_000;
    private const MAX_KEYS = 200_000;

    private readonly MotionReader $motions;
    private readonly OutlineReader $outlines;
    private readonly PickReader $picks;
    private readonly TouchReader $touches;

    public function __construct(Kinds $kinds)
    {
        $this->picks = new PickReader();
        $this->touches = new TouchReader($kinds);
        $this->motions = new MotionReader();
        $this->outlines = new OutlineReader($this->motions);
    }

    /**
     * @param mixed $document as json_decode(…, true) gives it
     *
     * @throws InvalidRecipe
     */
    public function read(mixed $document): Recipe
    {
        $root = Node::root($document)->object(['cossel', 'space', 'source', 'assets', 'base', 'areas', 'finish']);
        $this->checkSize($document);
        $root->get('cossel', Recipe::FORMAT)->word([Recipe::FORMAT]);
        $root->optional('space', static fn(Node $n): string => $n->word(['bt709']), 'bt709');
        $recipe = new Recipe(
            $this->source($root->get('source', 'the footage it was made for')),
            $root->optional('assets', $this->assets(...), []),
            $root->optional('base', $this->touches->ofFrame(...), []),
            $root->optional('areas', $this->areas(...), []),
            $root->optional('finish', $this->touches->ofFinish(...), []),
        );
        $this->checkIds($root);
        Bonds::check($recipe);
        $this->checkPairs($recipe);
        $this->checkAssets($recipe);

        return $recipe;
    }

    private function source(Node $n): Source
    {
        $n->object(['sha256', 'span', 'rate', 'size']);
        [$w, $h] = $n->get('size', 'width and height')->items(2, 2);

        return new Source(
            $n->get('sha256', 'a SHA-256')->sha256(),
            Keyframes::span($n->get('span', 'first and last frame')),
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
        $n->object(
            ['id', 'name', 'part', 'person', 'on', 'outline', 'motion', 'pick', 'live', 'strength', 'blinkGuard', 'pair', 'touches'],
        );

        return new Area(
            $n->get('id', 'an id')->id(),
            $n->get('name', 'a name')->text(),
            $n->optional('part', static fn(Node $v): string => $v->id(), 'other'),
            $n->optional('person', static fn(Node $v): ?string => $v->isNull() ? null : $v->id(), null),
            $n->optional('on', static fn(Node $v): bool => $v->flag(), true),
            $this->outlines->outline($n->get('outline', 'an outline')),
            $n->optional('motion', $this->motions->motion(...), new Motion()),
            $this->live($n->get('live', 'the live span')),
            $n->optional('strength', static fn(Node $v): Keyed => Keyframes::keyed($v, 0, 1), new Keyed(1.0)),
            $n->optional('blinkGuard', static function (Node $v): BlinkGuard {
                $v->object(['on', 'keys']);

                return new BlinkGuard(
                    $v->get('on', 'true or false')->flag(),
                    $v->optional('keys', static fn(Node $keys): array => Keyframes::numbers($keys, 0, 1), []),
                );
            }, new BlinkGuard()),
            $n->optional('touches', $this->touches->ofArea(...), []),
            $n->optional('pick', fn(Node $v): ?Pick => $v->isNull() ? null : $this->picks->pick($v), null),
            $n->optional('pair', static fn(Node $v): ?Pair => $v->isNull() ? null : self::pair($v), null),
        );
    }

    private static function pair(Node $n): Pair
    {
        $n->object(['with', 'linked']);

        return new Pair($n->get('with', 'the id of an area')->id(), $n->get('linked', 'true or false')->flag());
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

    /** However it is cut into areas, a recipe stays within what can be read and rendered. */
    private function checkSize(mixed $document): void
    {
        $parts = $points = $keys = 0;
        $count = static function (mixed $value, string|int $name) use (&$count, &$parts, &$points, &$keys): void {
            if (!is_array($value)) {
                return;
            }
            $parts += in_array($name, ['shapes', 'touches', 'base', 'finish'], true) ? count($value) : 0;
            $points += $name === 'points' ? count($value) : 0;
            $keys += $name === 'keys' ? count($value) : 0;
            array_walk($value, $count);
        };
        $count($document, '');
        foreach ([
            'shapes and touches' => [$parts, self::MAX_PARTS],
            'points' => [$points, self::MAX_POINTS],
            'keyframes' => [$keys, self::MAX_KEYS],
        ] as $what => [$found, $most]) {
            if ($found > $most) {
                throw InvalidRecipe::at('', "at most {$most} {$what} in all", $found);
            }
        }
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

    /** Linked areas take the touches of the one they are paired with, which has some of its own. */
    private function checkPairs(Recipe $recipe): void
    {
        foreach ($recipe->areas as $i => $area) {
            if ($area->pair === null) {
                continue;
            }
            Bonds::checkKnown("/areas/{$i}/pair/with", $area->pair->with, $recipe);
            if ($area->pair->with === $area->id || ($area->pair->linked && $recipe->area($area->pair->with)->pair?->linked)) {
                throw InvalidRecipe::at("/areas/{$i}/pair/with", 'another area that is not itself linked', $area->pair->with);
            }
            if ($area->pair->linked && $area->touches !== []) {
                throw InvalidRecipe::at(
                    "/areas/{$i}/touches",
                    'no touches of its own while it is linked',
                    array_map(static fn(Touch $t): string => $t->id, $area->touches),
                );
            }
        }
    }

    /** Files that touches name are among the recipe's, and of the right sort. */
    private function checkAssets(Recipe $recipe): void
    {
        $lists = ['/base' => $recipe->base, '/finish' => $recipe->finish];
        foreach ($recipe->areas as $i => $area) {
            $lists["/areas/{$i}/touches"] = $area->touches;
        }
        foreach ($lists as $pointer => $touches) {
            foreach ($touches as $k => $touch) {
                foreach ($touch->kind->parameters() as $parameter) {
                    $name = $touch->settings[$parameter->name];
                    if ($parameter instanceof Asset && $name !== null && ($recipe->assets[$name]['kind'] ?? null) !== $parameter->kind) {
                        throw InvalidRecipe::at(
                            "{$pointer}/{$k}/{$parameter->name}",
                            "the name of an asset of kind {$parameter->kind}",
                            $name,
                        );
                    }
                }
            }
        }
    }
}
