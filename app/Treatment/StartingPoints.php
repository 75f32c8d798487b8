<?php

declare(strict_types=1);

namespace App\Treatment;

/** Small sets of touches to begin a treatment with. Each becomes ordinary touches, to be changed like any others. */
final class StartingPoints
{
    /** Where each is offered: in areas, or on the whole frame. */
    public const AREA = 'area';
    public const FRAME = 'frame';

    /** @return list<array{name: string, hint: string, where: string, parts: list<string>, touches: list<array<string, mixed>>}> parts of the body it is meant for; none for any */
    public static function all(): array
    {
        return [
            self::of('Open a backlit face', 'Light, shadows a little more, colour back to life. With a pick of the darks nothing spills over the edge.', ['face'], [
                ['kind' => 'exposure', 'stops' => 0.8],
                ['kind' => 'tone', 'shadows' => 0.3, 'whites' => -0.1, 'calm' => 0.003],
                ['kind' => 'colour', 'saturation' => 1.05],
            ]),
            self::of('Light from one side', 'A gentle fall of light across the face; drag its direction on the picture.', ['face'], [
                ['kind' => 'sidelight', 'stops' => 0.5, 'direction' => -30, 'width' => 1.0],
            ]),
            self::of('Even skin, keep pores', 'Blotches and redness calmed, the fine texture brought back a little, grain matched.', ['skin', 'face', 'neck', 'forehead', 'cheek', 'chin', 'nose', 'under-eye'], [
                ['kind' => 'even', 'tone' => 0.6, 'lines' => 0.1, 'pores' => -0.1, 'redness' => 0.2],
                ['kind' => 'grain', 'level' => 1],
            ]),
            self::of('Calm shine', 'Takes the gloss off forehead and nose.', ['skin', 'face', 'forehead', 'nose'], [['kind' => 'even', 'shine' => 0.5]]),
            self::of('Whiten gently', 'Half of the yellow out, hardly lighter; stops before the whites of the eyes.', ['teeth'], [
                ['kind' => 'whiten', 'yellow' => 0.5, 'lift' => 0.015],
            ]),
            self::of('Calm lips', 'Less colour, mids a touch lower.', ['lips'], [
                ['kind' => 'colour', 'saturation' => 0.78],
                ['kind' => 'tone', 'gamma' => 0.94],
            ]),
            self::of('Green eyes', 'Hue changed, fibres and catch-light kept.', ['iris'], [['kind' => 'iris', 'strength' => 1, 'hue' => 150, 'chroma' => 0.045, 'light' => 0.02, 'contrast' => 0.1, 'ring' => 0.2]]),
            self::of('Blue eyes', 'Hue changed, fibres and catch-light kept.', ['iris'], [['kind' => 'iris', 'strength' => 1, 'hue' => 245, 'chroma' => 0.05, 'light' => 0.03, 'contrast' => 0.1, 'ring' => 0.25]]),
            self::of('Brighter eyes', 'The same colour, more light and contrast.', ['iris'], [['kind' => 'iris', 'light' => 0.04, 'contrast' => 0.25, 'ring' => 0.15]]),
            self::of('Cover a spot', 'Skin from beside it; find the place, or drag it on the picture.', ['spot'], [
                ['kind' => 'conceal', 'offsetX' => 0.05],
                ['kind' => 'grain', 'level' => 1],
            ]),
            self::of('Quiet the surroundings', 'Outside: a little darker, less colour, a trace softer.', [], [
                ['kind' => 'exposure', 'side' => 'outside', 'stops' => -0.25],
                ['kind' => 'colour', 'side' => 'outside', 'saturation' => 0.85],
                ['kind' => 'blur', 'side' => 'outside', 'radius' => 0.0015],
            ]),
            self::of('A slight edge', 'Sharpens what is there, leaves the noise.', [], [['kind' => 'sharpen', 'strength' => 0.4]]),
            self::of('Soft glow', 'Light spills from the bright parts.', [], [['kind' => 'glow', 'intensity' => 0.25, 'threshold' => 0.25]]),
            self::of('Cool night', 'Darker, cooler, less colour, on the whole frame.', [], [
                ['kind' => 'exposure', 'stops' => -0.7],
                ['kind' => 'colour', 'temperature' => -14, 'saturation' => 0.75],
            ], self::FRAME),
            self::of('Warm afternoon', 'A little warmer, mids lifted, on the whole frame.', [], [
                ['kind' => 'tone', 'gamma' => 1.06],
                ['kind' => 'colour', 'temperature' => 8, 'saturation' => 1.06],
            ], self::FRAME),
        ];
    }

    /**
     * @param list<string>               $parts
     * @param list<array<string, mixed>> $touches
     *
     * @return array{name: string, hint: string, where: string, parts: list<string>, touches: list<array<string, mixed>>}
     */
    private static function of(string $name, string $hint, array $parts, array $touches, string $where = self::AREA): array
    {
        return ['name' => $name, 'hint' => $hint, 'where' => $where, 'parts' => $parts, 'touches' => $touches];
    }
}
