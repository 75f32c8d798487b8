<?php

declare(strict_types=1);

namespace App\Console;

use Cossel\Core\Recipe\Channel;
use Cossel\Core\Recipe\Ease;
use Cossel\Core\Recipe\Join;
use Cossel\Core\Recipe\Model;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\Side;
use Cossel\Core\Touch\Choice;
use Cossel\Core\Touch\InArea;
use Cossel\Core\Touch\Kind;
use Cossel\Core\Touch\Kinds;
use Cossel\Core\Touch\Legal;
use Cossel\Core\Touch\Number;
use Cossel\Core\Touch\Parameter;
use Cossel\Core\Touch\Points;
use Illuminate\Console\Command;

/** Writes the recipe's format for machines, JSON Schema 2020-12; kinds of touch come from their list. */
final class Schema extends Command
{
    protected $signature = 'cossel:schema';

    protected $description = 'Prints the JSON Schema of recipes';

    public function handle(Kinds $kinds): int
    {
        $this->output->write(json_encode(self::document($kinds), JSON_THROW_ON_ERROR | JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE) . "\n", false, \Symfony\Component\Console\Output\OutputInterface::OUTPUT_RAW);

        return 0;
    }

    /** @return array<string, mixed> */
    public static function document(Kinds $kinds): array
    {
        $frame = ['type' => 'integer', 'minimum' => 0, 'maximum' => 1000000];
        $number = static fn(float $least, float $most): array => ['type' => 'number', 'minimum' => $least, 'maximum' => $most];
        $words = static fn(string $enum): array => ['enum' => array_column($enum::cases(), 'value')];
        $pair = static fn(array $item): array => ['type' => 'array', 'items' => $item, 'minItems' => 2, 'maxItems' => 2];
        $object = static fn(array $fields, array $required): array => ['type' => 'object', 'properties' => $fields, 'required' => $required, 'additionalProperties' => false];
        $ref = static fn(string $name): array => ['$ref' => "#/\$defs/{$name}"];
        $keys = static fn(array $value): array => ['type' => 'array', 'items' => $object(['frame' => $frame, 'value' => $value, 'ease' => $ref('ease')], ['frame', 'value'])];
        $keyed = static fn(array $value): array => ['oneOf' => [$value, $object(['value' => $value, 'keys' => $keys($value)], ['value'])]];
        $setting = static fn(Parameter $p): array => match (true) {
            $p instanceof Number => $keyed($number($p->least, $p->most)),
            $p instanceof Choice => ['enum' => $p->words],
            $p instanceof Points => ['type' => 'array', 'maxItems' => Points::MOST, 'items' => ['type' => 'array', 'prefixItems' => [$number(...$p->x), $number(...$p->y)], 'minItems' => 2, 'maxItems' => 2]],
            default => ['oneOf' => [['type' => 'null'], $ref('id')]],
        };
        $kindsOf = static fn(bool $inArea): array => array_values(array_filter($kinds->list(), static fn(Kind $kind): bool => $inArea ? !$kind instanceof Legal : !$kind instanceof InArea));
        $touches = static fn(bool $inArea): array => ['type' => 'array', 'maxItems' => 100, 'items' => ['oneOf' => array_map(static fn(Kind $kind): array => $object([
            'id' => $ref('id'),
            'kind' => ['const' => $kind->name()],
            ...($inArea ? ['side' => $kind instanceof InArea ? ['const' => Side::Inside->value] : $words(Side::class)] : []),
            'on' => ['type' => 'boolean'],
            'amount' => $keyed($number(0, 1)),
            ...array_column(array_map(static fn(Parameter $p): array => [$p->name, $setting($p)], $kind->parameters()), 1, 0),
        ], ['id', 'kind']), $kindsOf($inArea))]];
        $point = $pair($number(-20, 20));
        $edge = ['featherIn' => $number(0, 1), 'featherOut' => $number(0, 1), 'grow' => $number(-1, 1), 'opacity' => $number(0, 1)];
        $round = ['centre' => $point, 'radii' => $pair($number(0.0005, 20)), 'turn' => $number(-3600, 3600)];
        $points = ['points' => ['type' => 'array', 'items' => $ref('pathPoint'), 'minItems' => 2, 'maxItems' => 500]];
        $sha256 = ['type' => 'string', 'pattern' => '^[0-9a-f]{64}$'];
        $motion = $object([
            'by' => ['enum' => ['none', 'follow', 'ride']],
            'start' => $frame,
            'span' => $pair($frame),
            'model' => $ref('model'),
            'look' => ['oneOf' => [$ref('outlineLook'), $ref('spotsLook')]],
            'use' => ['type' => 'array', 'items' => $ref('channel'), 'maxItems' => 5],
            'pivot' => $point,
            'track' => ['oneOf' => [['type' => 'null'], $object(['sha256' => $sha256], ['sha256'])]],
            'on' => $ref('id'),
            'keys' => ['type' => 'array', 'items' => $ref('motionKey')],
        ], ['by']);
        $shape = static fn(string $kind, array $own, array $keyed, array $required): array => $object([
            'id' => $ref('id'),
            'kind' => ['const' => $kind],
            'join' => $ref('join'),
            ...$own,
            ...$keyed,
            'keys' => ['type' => 'array', 'items' => $object(['frame' => $frame, 'ease' => $ref('ease'), ...$keyed], ['frame'])],
        ], ['id', 'kind', ...$required]);
        $own = ['motion' => ['oneOf' => [['type' => 'null'], $ref('motion')]]];
        $shapes = [
            'ellipse' => $shape('ellipse', $own, [...$round, ...$edge], ['centre', 'radii']),
            'box' => $shape('box', $own, [...$round, 'round' => $number(0, 1), ...$edge], ['centre', 'radii']),
            'path' => $shape('path', $own, [...$points, ...$edge], ['points']),
            'people' => $shape('people', ['place' => ['oneOf' => [['type' => 'null'], $point]]], $edge, []),
            'areaShape' => $shape('area', ['of' => $ref('id')], ['opacity' => $number(0, 1)], ['of']),
        ];
        $range = static fn(array ...$numbers): array => ['type' => 'array', 'prefixItems' => $numbers, 'minItems' => 3, 'maxItems' => 3];
        $pick = $object([
            'space' => ['const' => 'oklch'],
            'samples' => ['type' => 'array', 'maxItems' => 64, 'items' => $ref('sample')],
            'hue' => $range($number(0, 360), $number(0, 360), $number(0, 180)),
            'chroma' => $range($number(0, 0.5), $number(0, 0.5), $number(0, 0.5)),
            'light' => $range($number(0, 1.5), $number(0, 1.5), $number(0, 1)),
            'follow' => ['oneOf' => [['type' => 'null'], $number(0, 1.5)]],
            'clean' => $object(['specks' => $number(0, 0.1), 'holes' => $number(0, 0.1)], []),
            'blur' => $number(0, 0.1),
            'invert' => ['type' => 'boolean'],
        ], []);
        $area = $object([
            'id' => $ref('id'),
            'name' => ['type' => 'string', 'maxLength' => 200],
            'part' => $ref('id'),
            'person' => ['oneOf' => [['type' => 'null'], $ref('id')]],
            'on' => ['type' => 'boolean'],
            'outline' => $object(['at' => $frame, 'invert' => ['type' => 'boolean'], 'shapes' => ['type' => 'array', 'items' => ['oneOf' => array_map($ref, array_keys($shapes))], 'maxItems' => 100]], ['at']),
            'motion' => $ref('motion'),
            'pick' => ['oneOf' => [['type' => 'null'], $ref('pick')]],
            'live' => $object(['from' => $frame, 'to' => $frame, 'fadeIn' => $frame, 'fadeOut' => $frame], ['from', 'to']),
            'strength' => $keyed($number(0, 1)),
            'blinkGuard' => $object(['on' => ['type' => 'boolean'], 'keys' => $keys($number(0, 1))], ['on']),
            'pair' => ['oneOf' => [['type' => 'null'], $object(['with' => $ref('id'), 'linked' => ['type' => 'boolean']], ['with', 'linked'])]],
            'touches' => $touches(true),
        ], ['id', 'name', 'outline', 'live']);

        return [
            '$schema' => 'https://json-schema.org/draft/2020-12/schema',
            'title' => 'Cossel ' . Recipe::FORMAT,
            ...$object([
                'cossel' => ['const' => Recipe::FORMAT],
                'space' => ['const' => 'bt709'],
                'source' => $object(['sha256' => $sha256, 'span' => $pair($frame), 'rate' => ['type' => 'string', 'pattern' => '^[1-9][0-9]{0,8}/[1-9][0-9]{0,8}$'], 'size' => $pair(['type' => 'integer', 'minimum' => 1, 'maximum' => 8192])], ['sha256', 'span', 'rate', 'size']),
                'assets' => ['type' => 'object', 'additionalProperties' => $object(['sha256' => $sha256, 'kind' => $ref('id')], ['sha256', 'kind'])],
                'base' => $touches(false),
                'areas' => ['type' => 'array', 'items' => $ref('area'), 'maxItems' => 200],
                'finish' => $touches(false),
            ], ['cossel', 'source']),
            '$defs' => [
                'id' => ['type' => 'string', 'pattern' => '^[A-Za-z0-9_-]{1,64}$'],
                'ease' => $words(Ease::class),
                'join' => $words(Join::class),
                'model' => $words(Model::class),
                'channel' => $words(Channel::class),
                'pathPoint' => $object(['at' => $point, 'in' => $point, 'out' => $point], ['at']),
                ...$shapes,
                'outlineLook' => $object(['by' => ['const' => 'outline'], 'margin' => $number(0, 1)], ['by']),
                'spotsLook' => $object(['by' => ['const' => 'spots'], 'spots' => ['type' => 'array', 'items' => $point, 'minItems' => 1, 'maxItems' => 2], 'radius' => $number(0.002, 0.5)], ['by', 'spots', 'radius']),
                'motionKey' => $object(['frame' => $frame, 'ease' => $ref('ease'), 'move' => $point, 'turn' => $number(-3600, 3600), 'scale' => $number(0.01, 100), 'shear' => $number(-10, 10)], ['frame']),
                'motion' => $motion,
                'sample' => $object(['frame' => $frame, 'at' => $point, 'rgb' => $range($number(-4, 8), $number(-4, 8), $number(-4, 8)), 'sign' => ['enum' => ['+', '-']]], ['frame', 'at', 'rgb', 'sign']),
                'pick' => $pick,
                'area' => $area,
            ],
        ];
    }
}
