<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Colour\Transfer;
use Cossel\Core\Touch\Internal\Curve;
use Cossel\Core\Touch\Internal\CurveEffect;
use Cossel\Core\Touch\Internal\GainEffect;

/**
 * More or less light: linear light x 2^stops.
 *
 * With a BT.1886 display (L = V^2.4) that is a gain of 2^(stops / 2.4) on the code values, exact at every value, under
 * black too; with sRGB it goes by way of linear light (IEC 61966-2-1).
 */
final class Exposure implements Kind
{
    use Neutral;

    public function name(): string
    {
        return 'exposure';
    }

    public function parameters(): array
    {
        return [new Number('stops', -6, 6, 0, 'stops')];
    }

    public function prepare(array $values, Site $site): Effect
    {
        $transfer = $site->transfer();
        if ($transfer === Transfer::Bt1886) {
            return new GainEffect(2 ** ($values['stops'] / Transfer::GAMMA));
        }
        $light = 2 ** $values['stops'];
        $curve = Curve::named(
            "exposure {$transfer->value} {$light}",
            static fn(float $v): float => $transfer->code($light * $transfer->linear($v)),
        );

        return new CurveEffect($curve, $curve, $curve);
    }
}
