<?php

declare(strict_types=1);

namespace Cossel\Core\Render;

use Cossel\Core\Colour\Transfer;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\Touch;
use Cossel\Core\Touch\Cdl;
use Cossel\Core\Touch\Colour;
use Cossel\Core\Touch\Exposure;
use Cossel\Core\Touch\Tone;

/**
 * The base as corrections of the ASC Color Decision List 1.2, one a touch, in order: decision lists as they are, and what is
 * the same as one from black up: exposure on a BT.1886 display, saturation, lift, gamma and gain. What is not is named.
 */
final class BaseCdl
{
    private const NEUTRAL = ['slope' => [1.0, 1.0, 1.0], 'offset' => [0.0, 0.0, 0.0], 'power' => [1.0, 1.0, 1.0], 'saturation' => 1.0];

    /**
     * @param int $number frame on which keyed values are taken
     *
     * @return array{
     *     corrections: list<array{id: string, slope: list<float>, offset: list<float>, power: list<float>, saturation: float}>,
     *     left: list<string>
     * } the corrections, and sentences without their stops that name what none says
     */
    public static function of(Recipe $recipe, Transfer $transfer, int $number): array
    {
        $corrections = $left = [];
        foreach ($recipe->base as $touch) {
            $amount = $touch->on ? $touch->amount->at($number) : 0.0;
            $values = $touch->values($number);
            if ($amount <= 0.0 || $touch->kind->isNeutral($values)) {
                continue;
            }
            $says = self::says($touch, $values, $amount, $transfer);
            if ($says === null) {
                $left[] = "{$touch->kind->name()} cannot be said as a decision list";
            } else {
                $corrections[] = ['id' => $touch->id, ...self::NEUTRAL, ...$says];
            }
        }

        return ['corrections' => $corrections, 'left' => $left];
    }

    /**
     * @param array<string, mixed> $values
     *
     * @return array<string, mixed>|null
     */
    private static function says(Touch $touch, array $values, float $amount, Transfer $transfer): ?array
    {
        $same = static fn(float $v): array => [$v, $v, $v];
        $neutral = static fn(array $of): bool => array_intersect_key($values, $of) == $of;
        $kind = $touch->kind;
        // What is a multiple of the channels, or of their distance from grey, can be weakened and still be one.
        if ($kind instanceof Exposure && $transfer === Transfer::Bt1886) {
            return ['slope' => $same(1.0 + $amount * (2 ** ($values['stops'] / Transfer::GAMMA) - 1.0))];
        }
        if ($kind instanceof Colour && $neutral(['temperature' => 0.0, 'tint' => 0.0])) {
            return ['saturation' => 1.0 + $amount * ($values['saturation'] - 1.0)];
        }
        if ($amount !== 1.0) {
            return null;
        }
        $zones = ['contrast' => 1.0, 'blacks' => 0.0, 'shadows' => 0.0, 'highlights' => 0.0, 'whites' => 0.0];
        if ($kind instanceof Tone && $neutral($zones)) {
            return [
                'slope' => $same($values['gain'] * (1.0 - $values['lift'])),
                'offset' => $same($values['gain'] * $values['lift']),
                'power' => $same(1.0 / $values['gamma']),
            ];
        }
        if (!$kind instanceof Cdl) {
            return null;
        }
        $triple = static fn(string $name): array => array_map(static fn(string $of): float => $values[$name . $of], Cdl::CHANNELS);

        return [
            'slope' => $triple('slope'),
            'offset' => $triple('offset'),
            'power' => $triple('power'),
            'saturation' => $values['saturation'],
        ];
    }
}
