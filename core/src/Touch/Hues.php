<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Geometry\Spline;
use Cossel\Core\Picture\Planes;

/**
 * Changes by hue: three periodic curves over the Oklab hue angle (degrees; {@see Spline}) give, for a pixel of hue h,
 * chroma x (1 + saturation(h)), hue + hue(h) degrees, and L + lightness(h). Hue means less the closer a pixel is to
 * grey: all three fade out with the cubic smoothstep of chroma from 0.005 to 0.04.
 */
final class Hues implements Kind
{
    use Neutral;
    use Pointwise;

    private const GREY = 0.005;
    private const COLOURED = 0.04;

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

    public function apply(Planes $planes, Weight $weight, array $values, Site $site): void
    {
        $lab = LabPlanes::of($planes, $weight->matte->rect, $site->transfer());
        self::turn($lab->l, $lab->a, $lab->b, self::table($values['saturation']), self::table($values['hue']), self::table($values['lightness']));
        $lab->into($planes, $weight, $site->transfer());
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

    /**
     * @param list<float> $l
     * @param list<float> $a
     * @param list<float> $b
     * @param list<float> $saturation
     * @param list<float> $hue
     * @param list<float> $lightness
     */
    private static function turn(array &$l, array &$a, array &$b, array $saturation, array $hue, array $lightness): void
    {
        $span = 1.0 / (self::COLOURED - self::GREY);
        for ($i = 0, $n = count($l); $i < $n; ++$i) {
            $x = $a[$i];
            $y = $b[$i];
            $chroma = sqrt($x * $x + $y * $y);
            $t = ($chroma - self::GREY) * $span;
            if ($t <= 0.0) {
                continue;
            }
            $t = $t >= 1.0 ? 1.0 : $t * $t * (3.0 - 2.0 * $t);
            $p = atan2($y, $x) * 57.29577951308232;
            $p = $p < 0.0 ? $p + 360.0 : $p;
            $c = (int) $p;
            $c = $c > 359 ? 359 : $c;
            $f = $p - $c;
            $l[$i] += $t * ($lightness[$c] + ($lightness[$c + 1] - $lightness[$c]) * $f);
            $k = 1.0 + $t * ($saturation[$c] + ($saturation[$c + 1] - $saturation[$c]) * $f);
            $angle = $t * ($hue[$c] + ($hue[$c + 1] - $hue[$c]) * $f) * 0.017453292519943295;
            $cos = $k * cos($angle);
            $sin = $k * sin($angle);
            $a[$i] = $x * $cos - $y * $sin;
            $b[$i] = $x * $sin + $y * $cos;
        }
    }
}
