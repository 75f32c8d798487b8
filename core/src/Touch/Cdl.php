<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Touch\Internal\CdlEffect;
use Cossel\Core\Touch\Internal\Curve;

/**
 * The ASC Color Decision List, version 1.2, on code values: slope, offset and power on each channel,
 * (v slope + offset)^power, then saturation about Y' with the BT.709 weights. As in its form without clamping, what is
 * below 0 keeps its value where the power would not be defined, and nothing is cut above 1.
 */
final class Cdl implements Kind
{
    use Neutral;

    public const CHANNELS = ['Red', 'Green', 'Blue'];

    public function name(): string
    {
        return 'cdl';
    }

    public function parameters(): array
    {
        $parameters = [];
        foreach ([['slope', 0, 8, 1], ['offset', -1, 1, 0], ['power', 0.1, 8, 1]] as [$name, $least, $most, $neutral]) {
            foreach (self::CHANNELS as $channel) {
                $parameters[] = new Number($name . $channel, $least, $most, $neutral);
            }
        }

        return [...$parameters, new Number('saturation', 0, 4, 1)];
    }

    public function prepare(array $values, Site $site): Effect
    {
        [$red, $green, $blue] = array_map(static function (string $channel) use ($values): Curve {
            [$slope, $offset, $power] = [$values["slope{$channel}"], $values["offset{$channel}"], $values["power{$channel}"]];

            return Curve::named('cdl ' . json_encode(
                [$slope, $offset, $power],
                \JSON_THROW_ON_ERROR,
            ), static function (float $x) use ($slope, $offset, $power): float {
                $y = $x * $slope + $offset;

                return $y < 0.0 ? $y : $y ** $power;
            });
        }, self::CHANNELS);

        return new CdlEffect($red, $green, $blue, $values['saturation']);
    }
}
