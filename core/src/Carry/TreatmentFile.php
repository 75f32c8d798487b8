<?php

declare(strict_types=1);

namespace Cossel\Core\Carry;

use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\InvalidRecipe;
use Cossel\Core\Recipe\Node;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\RecipeReader;
use Cossel\Core\Recipe\RecipeWriter;

/**
 * A treatment kept apart from its footage: a recipe document without `source`, whose motions are still to be followed, and in `carry`
 * what is known of where it comes from, so that it can be laid onto other shots and made to look the same there.
 */
final class TreatmentFile
{
    private const FAR = 100.0;
    private const MOST = 1000;
    private const MOST_FRAME = 10_000_000;
    private const MOST_SIDE = 65_536;

    /** @return array<string, mixed> ready for json_encode */
    public static function document(Treatment $treatment, Recipe $from, RecipeWriter $writer): array
    {
        $needed = [];
        $need = static function (Area $area) use (&$need, &$needed, $from): void {
            if (!isset($needed[$area->id])) {
                $needed[$area->id] = true;
                $pair = $area->pair?->linked === true ? [$area->pair->with] : [];
                array_map(static fn(string $id) => $need($from->area($id)), [...$from->needs($area), ...$pair]);
            }
        };
        array_map($need, $treatment->areas);
        $carried = array_column($treatment->areas, null, 'id');
        $areas = array_values(array_filter($from->areas, static fn(Area $area): bool => isset($needed[$area->id])));
        $areas = array_map(static fn(Area $area): Area => self::alone($carried[$area->id] ?? $area, $needed), $areas);
        $document = $writer->write(new Recipe($from->source, $from->assets, $treatment->base ?? [], $areas, $treatment->finish ?? []));
        unset($document['source']);
        foreach ($document['areas'] as &$area) {
            $area['motion']['track'] = null;
            foreach ($area['outline']['shapes'] as &$shape) {
                if (isset($shape['motion']['track'])) {
                    $shape['motion']['track'] = null;
                }
            }
        }
        $numbers = static fn(Tones $tones): array => array_map(static fn(float $v): float => round($v, 6), $tones->numbers());

        return [...$document, 'carry' => [
            'span' => $treatment->span,
            'size' => $from->source->size,
            'areas' => array_column($treatment->areas, 'id'),
            'base' => $treatment->base !== null,
            'finish' => $treatment->finish !== null,
            'places' => (object) $treatment->places,
            'marks' => (object) array_map(static fn(array $marks): object => (object) $marks, $treatment->marks),
            'tones' => (object) array_map($numbers, $treatment->tones),
            'given' => (object) array_map($numbers, $treatment->given),
        ]];
    }

    /** Whether a document is a treatment without footage that says where it comes from. */
    public static function is(mixed $document): bool
    {
        return is_array($document) && !isset($document['source']) && isset($document['carry']);
    }

    /** @throws InvalidRecipe */
    public static function read(mixed $document, RecipeReader $reader): Treatment
    {
        $carry = Node::root($document)->object(['cossel', 'space', 'assets', 'base', 'areas', 'finish', 'carry'])
            ->get('carry', 'where it comes from')
            ->object(['span', 'size', 'areas', 'base', 'finish', 'places', 'marks', 'tones', 'given']);
        [$from, $to] = $carry->get('span', 'first and last frame')->items(2, 2);
        $first = $from->whole(0, self::MOST_FRAME);
        [$width, $height] = $carry->get('size', 'width and height')->items(2, 2);
        $source = [
            'sha256' => str_repeat('0', 64),
            'span' => [$first, $to->whole($first, self::MOST_FRAME)],
            'rate' => '24/1',
            'size' => [$width->whole(1, self::MOST_SIDE), $height->whole(1, self::MOST_SIDE)],
        ];
        $plain = array_diff_key((array) $document, ['carry' => true]);
        $recipe = $reader->read([...$plain, 'source' => $source]);
        $ids = array_map(static fn(Node $n): string => $n->id(), $carry->get('areas', 'ids of areas')->items(0, self::MOST));
        $tones = static fn(Node $n): Tones => Tones::ofNumbers(
            array_map(static fn(Node $v): float => $v->number(-self::FAR, self::FAR), $n->items(9, 9)),
        );
        $mark = static fn(Node $n): array => $n->pair(-self::FAR, self::FAR);

        return new Treatment(
            $recipe->source->span,
            array_map($recipe->area(...), $ids),
            self::each($carry->get('places', 'parts by area'), static fn(Node $n): string => $n->text()),
            self::each($carry->get('marks', 'places by area'), static fn(Node $n): array => self::each($n, $mark)),
            $carry->get('base', 'true or false')->flag() ? $recipe->base : null,
            $carry->get('finish', 'true or false')->flag() ? $recipe->finish : null,
            $recipe->assets,
            self::each($carry->get('tones', 'nine numbers by area'), $tones),
            self::each($carry->get('given', 'nine numbers by area'), $tones),
        );
    }

    /**
     * An area as it can be kept: what it is linked to comes with it or is left.
     *
     * @param array<string, true> $kept
     */
    private static function alone(Area $area, array $kept): Area
    {
        $stays = $area->pair === null || (isset($kept[$area->pair->with]) && !($area->pair->linked && $area->touches !== []));

        return $stays ? $area : new Area(...[...get_object_vars($area), 'pair' => null]);
    }

    /**
     * @template T
     *
     * @param callable(Node): T $read
     *
     * @return array<string, T>
     */
    private static function each(Node $n, callable $read): array
    {
        $all = [];
        foreach ($n->object($n->fields())->fields() as $field) {
            $all[$field] = $read($n->get($field));
        }

        return $all;
    }
}
