<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Colour\WhitePoint;
use Cossel\Core\Touch\Internal\SaturationEffect;
use Cossel\Core\Touch\Internal\WhiteEffect;

/**
 * Warmer or cooler, and more or less colour, in this order:
 *
 * 1. temperature (mired along the daylight locus, + warmer) and tint (thousandths of CIE 1960 uv beside it, + magenta):
 *    Bradford adaptation of linear light from D65 to that white, see {@see WhitePoint};
 * 2. saturation on code values: Y' + saturation (C' - Y'), as ASC CDL 1.2 does it with the BT.709 weights.
 */
final class Colour implements Kind
{
    use Neutral;

    public function name(): string
    {
        return 'colour';
    }

    public function parameters(): array
    {
        return [
            new Number('temperature', -95, 95, 0, 'mired'),
            new Number('tint', -30, 30, 0),
            new Number('saturation', 0, 4, 1),
        ];
    }

    public function prepare(array $values, Site $site): Effect
    {
        return $values['temperature'] === 0.0 && $values['tint'] === 0.0
            ? new SaturationEffect($values['saturation'])
            : new WhiteEffect(WhitePoint::change($values['temperature'], $values['tint']), $values['saturation'], $site->transfer());
    }
}
