<?php

declare(strict_types=1);

namespace Cossel\Measuring;

use App\Footage\FootageFile;
use Cossel\Core\Touch\Kind;
use Cossel\Core\Touch\Parameter;

/** Recipes and settings to measure with. */
final class Samples
{
    /**
     * @param list<array<string, mixed>> $base
     * @param list<array<string, mixed>> $areas
     *
     * @return array<string, mixed>
     */
    public static function recipe(FootageFile $footage, array $base = [], array $areas = []): array
    {
        $info = $footage->info;

        return [
            'cossel' => 'recipe/1',
            'source' => ['sha256' => $footage->sha256, 'span' => [0, $info->frames() - 1], 'rate' => $info->rate, 'size' => [$info->width, $info->height]],
            'base' => $base,
            'areas' => $areas,
        ];
    }

    /** @return list<array<string, mixed>> a usual base grade */
    public static function base(): array
    {
        return [
            ['id' => 'base1', 'kind' => 'exposure', 'stops' => 0.3],
            ['id' => 'base2', 'kind' => 'tone', 'contrast' => 1.1],
            ['id' => 'base3', 'kind' => 'colour', 'saturation' => 1.1],
        ];
    }

    /** @return array<string, mixed> an area the size of a face with one to three touches */
    public static function face(int $touches): array
    {
        return self::area('face', 1.2, 0.5, 0.18, 0.25, array_slice([
            ['id' => 'face1', 'kind' => 'exposure', 'stops' => 1.2],
            ['id' => 'face2', 'kind' => 'tone', 'gamma' => 1.15, 'lift' => 0.01],
            ['id' => 'face3', 'kind' => 'colour', 'temperature' => 8, 'saturation' => 1.1],
        ], 0, $touches));
    }

    /** @return array<string, mixed> an area the size of an eye */
    public static function small(string $id, float $x): array
    {
        return self::area($id, $x, 0.45, 0.05, 0.04, [['id' => "{$id}1", 'kind' => 'exposure', 'stops' => 0.4], ['id' => "{$id}2", 'kind' => 'colour', 'saturation' => 1.2]]);
    }

    /** @return array<string, array<string, mixed>> settings of a kind that change something, by what they are */
    public static function settings(Kind $kind): array
    {
        $neutral = array_column(array_map(static fn(Parameter $p): array => [$p->name, $p->neutral], $kind->parameters()), 1, 0);
        $name = $kind->name();

        return array_map(static fn(array $own): array => [...$neutral, ...$own], match ($name) {
            'exposure' => [$name => ['stops' => 0.5]],
            'tone' => ['tone, levels' => ['gamma' => 1.2], 'tone, zones' => ['shadows' => 0.5], 'tone, calm zones' => ['shadows' => 0.5, 'calm' => 0.004]],
            'colour' => ['colour, saturation' => ['saturation' => 1.2], 'colour, temperature' => ['temperature' => 10.0]],
            'trim' => [$name => ['stops' => 0.3, 'temperature' => 5.0]],
            'cdl' => [$name => ['slopeRed' => 1.1, 'saturation' => 0.9]],
            'balance' => [$name => ['midsRed' => 0.02]],
            'curves' => ['curves, luma' => ['luma' => [[0.0, 0.0], [0.5, 0.55], [1.0, 1.0]]], 'curves, red' => ['red' => [[0.0, 0.0], [0.5, 0.55], [1.0, 1.0]]]],
            'hues' => [$name => ['saturation' => [[60.0, 0.0], [100.0, -0.5], [140.0, 0.0]]]],
            'sidelight' => [$name => ['stops' => 0.7]],
            'even' => [$name => ['tone' => 0.7, 'lines' => 0.3]],
            'whiten' => [$name => ['yellow' => 0.6, 'lift' => 0.03]],
            'iris' => ['iris, tint' => ['strength' => 0.7], 'iris, soft light' => ['strength' => 0.7, 'blend' => 'soft-light']],
            'conceal' => [$name => ['offsetX' => 0.1]],
            'match' => [$name => ['light' => 0.5, 'colour' => 0.5]],
            'grain' => [$name => ['level' => 1.0]],
            'blur' => ['blur, small' => ['radius' => 0.002], 'blur, wide' => ['radius' => 0.02]],
            'sharpen' => [$name => ['strength' => 0.6]],
            'glow' => [$name => ['intensity' => 0.4]],
            'lut', 'insert' => [$name => ['file' => 'bench']],
            default => [$name => []],
        });
    }

    /**
     * @param list<array<string, mixed>> $touches
     *
     * @return array<string, mixed>
     */
    private static function area(string $id, float $x, float $y, float $across, float $along, array $touches): array
    {
        return [
            'id' => $id,
            'name' => $id,
            'outline' => ['at' => 40, 'shapes' => [['id' => "{$id}-shape", 'kind' => 'ellipse', 'centre' => [$x, $y], 'radii' => [$across, $along], 'turn' => -6, 'featherIn' => 0.01, 'featherOut' => 0.03]]],
            'live' => ['from' => 0, 'to' => 1000],
            'touches' => $touches,
        ];
    }
}
