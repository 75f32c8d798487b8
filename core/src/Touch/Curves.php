<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Geometry\Spline;
use Cossel\Core\Touch\Internal\Curve;
use Cossel\Core\Touch\Internal\CurvesEffect;

/**
 * Curves on code values through points, see {@see Spline}: red, green and blue each by its own, then luma: what the curve
 * adds to Y' (BT.709 weights) is added to all three, so that the colour differences stay as they are.
 */
final class Curves implements Kind
{
    use Neutral;

    public function name(): string
    {
        return 'curves';
    }

    public function parameters(): array
    {
        return array_map(static fn(string $name): Points => new Points($name, [0, 1], [0, 1]), ['luma', 'red', 'green', 'blue']);
    }

    public function prepare(array $values, Site $site): Effect
    {
        return new CurvesEffect(
            self::curve($values['red']),
            self::curve($values['green']),
            self::curve($values['blue']),
            self::curve($values['luma']),
        );
    }

    /** @param list<array{float, float}> $points */
    private static function curve(array $points): ?Curve
    {
        return $points === []
            ? null
            : Curve::named('curve ' . json_encode($points, \JSON_THROW_ON_ERROR), Spline::through($points)->at(...));
    }
}
