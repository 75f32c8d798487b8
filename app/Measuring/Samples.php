<?php

declare(strict_types=1);

namespace App\Measuring;

use App\Footage\FootageFile;
use Cossel\Core\Touch\Kind;

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

    /** @return array<string, array<string, float>> settings of a kind that change something, by what they are */
    public static function settings(Kind $kind): array
    {
        $neutral = array_column(array_map(static fn($p): array => [$p->name, $p->neutral], $kind->parameters()), 1, 0);

        return match ($kind->name()) {
            'tone' => ['tone, levels' => [...$neutral, 'gamma' => 1.2], 'tone, zones' => [...$neutral, 'shadows' => 0.5]],
            'colour' => ['colour, saturation' => [...$neutral, 'saturation' => 1.2], 'colour, temperature' => [...$neutral, 'temperature' => 10.0]],
            default => [$kind->name() => [...$neutral, array_key_first($neutral) => 0.5]],
        };
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
