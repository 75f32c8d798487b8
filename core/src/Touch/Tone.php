<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Colour\Transfer;
use Cossel\Core\Picture\Smooth;
use Cossel\Core\Touch\Internal\Curve;
use Cossel\Core\Touch\Internal\CurveEffect;
use Cossel\Core\Touch\Internal\ZonesEffect;

/**
 * Levels on code values, in this order:
 *
 * 1. lift, gain, gamma on each channel: y = gain (x + lift (1 - x)); z = sgn(y) |y|^(1/gamma);
 * 2. contrast about a pivot p, a power so that black stays black: p sgn(z) |z/p|^contrast;
 * 3. zones, in stops of display light: all three channels times 2^(sum of amount x zone(Y') / 2.4), with
 *    Y' = 0.2126 R' + 0.7152 G' + 0.0722 B' after step 2 and s(a, b, x) the cubic smoothstep:
 *    blacks 1 - s(0, .2, Y'), shadows 1 - s(0, .5, Y'), highlights s(.5, 1, Y'), whites s(.8, 1, Y'). With `calm` (sigma
 *    in picture heights) the zones are read by the softened luma, so that noise does not choose its own gain.
 *
 * Source of the weights: ITU-R BT.709-6. Step 1 and 2 are read from a table (see {@see Curve}).
 */
final class Tone implements Kind
{
    public function name(): string
    {
        return 'tone';
    }

    public function parameters(): array
    {
        return [
            new Number('lift', -0.5, 0.5, 0),
            new Number('gamma', 0.25, 4, 1),
            new Number('gain', 0, 4, 1),
            new Number('contrast', 0.25, 4, 1),
            new Number('pivot', 0.05, 0.95, 0.4),
            new Number('blacks', -2, 2, 0, 'stops'),
            new Number('shadows', -2, 2, 0, 'stops'),
            new Number('highlights', -2, 2, 0, 'stops'),
            new Number('whites', -2, 2, 0, 'stops'),
            new Number('calm', 0, 0.02, 0, 'heights'),
        ];
    }

    public function isNeutral(array $values): bool
    {
        // The pivot alone does nothing.
        return self::curveIsNeutral($values) && self::zonesAreNeutral($values);
    }

    public function prepare(array $values, Site $site): Effect
    {
        $curve = self::curveIsNeutral($values) ? null : Curve::named(
            'tone ' . json_encode(
                [$values['lift'], $values['gamma'], $values['gain'], $values['contrast'], $values['pivot']],
                \JSON_THROW_ON_ERROR,
            ),
            static fn(float $x): float => self::level($x, $values),
        );

        return self::zonesAreNeutral($values)
            ? new CurveEffect($curve, $curve, $curve)
            : new ZonesEffect($curve, self::zones($values), $values['calm'] * $site->rows());
    }

    /** @param array<string, float> $v */
    private static function curveIsNeutral(array $v): bool
    {
        return $v['lift'] === 0.0 && $v['gamma'] === 1.0 && $v['gain'] === 1.0 && $v['contrast'] === 1.0;
    }

    /** @param array<string, float> $v */
    private static function zonesAreNeutral(array $v): bool
    {
        return $v['blacks'] === 0.0 && $v['shadows'] === 0.0 && $v['highlights'] === 0.0 && $v['whites'] === 0.0;
    }

    /** @param array<string, float> $v */
    private static function level(float $x, array $v): float
    {
        $y = $v['gain'] * ($x + $v['lift'] * (1 - $x));
        $z = abs($y) ** (1 / $v['gamma']);
        $z = $v['pivot'] * ($z / $v['pivot']) ** $v['contrast'];

        return $y < 0 ? -$z : $z;
    }

    /**
     * The gain by luma, from 0 to 1 in steps of 1/1024.
     *
     * @param array<string, float> $v
     *
     * @return list<float>
     */
    private static function zones(array $v): array
    {
        $gains = [];
        for ($i = 0; $i <= 1024; ++$i) {
            $y = $i / 1024;
            $stops = $v['blacks'] * (1 - Smooth::step(0, 0.2, $y))
                + $v['shadows'] * (1 - Smooth::step(0, 0.5, $y))
                + $v['highlights'] * Smooth::step(0.5, 1, $y)
                + $v['whites'] * Smooth::step(0.8, 1, $y);
            $gains[] = 2 ** ($stops / Transfer::GAMMA);
        }

        return $gains;
    }
}
