<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Picture\Gaussian;
use Cossel\Core\Picture\Planes;

/**
 * Light that spills from what is bright, in linear light: g = intensity x G(max(0, L - threshold)), G a Gaussian whose
 * sigma is the radius (picture heights), laid over by screen, L + g (1 - L); where L is above 1 nothing is added.
 */
final class Glow implements Kind
{
    use Neutral;

    public function name(): string
    {
        return 'glow';
    }

    public function parameters(): array
    {
        return [
            new Number('intensity', 0, 4, 0),
            new Number('radius', 0.001, 0.1, 0.02, 'heights'),
            new Number('threshold', 0, 1, 0.2),
        ];
    }

    public function isNeutral(array $values): bool
    {
        return $values['intensity'] === 0.0;
    }

    public function sight(array $values, Site $site): Sight
    {
        return Sight::around(Gaussian::reach($values['radius'] * $site->rows()));
    }

    public function apply(Planes $planes, Weight $weight, array $values, Site $site): void
    {
        $sigma = $values['radius'] * $site->rows();
        $rect = $weight->matte->rect->grow(Gaussian::reach($sigma))->intersect($planes->rect);
        $light = LightPlanes::of($planes, $rect, $site->transfer());
        foreach (['r', 'g', 'b'] as $channel) {
            $spill = Gaussian::values(self::over($light->{$channel}, $values['threshold']), $rect->width, $rect->height, $sigma);
            $light->{$channel} = self::screen($light->{$channel}, $spill, $values['intensity']);
        }
        $light->into($planes, $weight, $site->transfer());
    }

    /**
     * @param list<float> $v
     *
     * @return list<float>
     */
    private static function over(array $v, float $threshold): array
    {
        foreach ($v as $i => $x) {
            $v[$i] = $x > $threshold ? $x - $threshold : 0.0;
        }

        return $v;
    }

    /**
     * @param list<float> $v
     * @param list<float> $spill
     *
     * @return list<float>
     */
    private static function screen(array $v, array $spill, float $intensity): array
    {
        foreach ($v as $i => $x) {
            if ($x < 1.0) {
                $v[$i] = $x + $intensity * $spill[$i] * (1.0 - $x);
            }
        }

        return $v;
    }
}
