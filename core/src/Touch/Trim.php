<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Colour\WhitePoint;
use Cossel\Core\Touch\Internal\WhiteEffect;

/**
 * What brings one shot to another before the same treatment: light, white and saturation in one. Linear light x 2^stops through the
 * Bradford adaptation to another white, see {@see WhitePoint}, then saturation on code values as in {@see Colour}.
 */
final class Trim implements Kind
{
    use Neutral;

    public function name(): string
    {
        return 'trim';
    }

    public function parameters(): array
    {
        return [
            new Number('stops', -4, 4, 0, 'stops'),
            new Number('temperature', -95, 95, 0, 'mired'),
            new Number('tint', -30, 30, 0),
            new Number('saturation', 0, 4, 1),
        ];
    }

    public function prepare(array $values, Site $site): Effect
    {
        $light = 2 ** $values['stops'];
        $matrix = array_map(static fn(float $v): float => $light * $v, WhitePoint::change($values['temperature'], $values['tint']));

        return new WhiteEffect($matrix, $values['saturation'], $site->transfer());
    }
}
