<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Geometry\Spline;
use Cossel\Core\Touch\Internal\HuesEffect;

/**
 * Changes by hue: three periodic curves over the Oklab hue angle (degrees; {@see Spline}) give, for a pixel of hue h,
 * chroma x (1 + saturation(h)), hue + hue(h) degrees, and L + lightness(h). Hue means less the closer a pixel is to
 * grey: all three fade out with the cubic smoothstep of chroma from 0.005 to 0.04.
 */
final class Hues implements Kind
{
    use Neutral;

    public function name(): string
    {
        return 'hues';
    }

    public function parameters(): array
    {
        return [
            new Points('saturation', [0, 360], [-1, 2]),
            new Points('hue', [0, 360], [-120, 120]),
            new Points('lightness', [0, 360], [-0.3, 0.3]),
        ];
    }

    public function prepare(array $values, Site $site): Effect
    {
        return new HuesEffect(
            self::table($values['saturation']),
            self::table($values['hue']),
            self::table($values['lightness']),
            $site->transfer(),
        );
    }

    /**
     * @param list<array{float, float}> $points
     *
     * @return list<float> by whole degrees, 0 to 360
     */
    private static function table(array $points): array
    {
        if ($points === []) {
            return array_fill(0, 361, 0.0);
        }
        $curve = Spline::round($points, 360.0);

        return array_map(static fn(int $degree): float => $curve->at($degree), range(0, 360));
    }
}
