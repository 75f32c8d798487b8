<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Touch\Internal\GlowEffect;

/**
 * Light that spills from what is bright, in linear light: g = intensity x G(max(0, L - threshold)), G a Gaussian whose
 * sigma is the radius (picture heights), laid over as 1 - (1 - L) e^-g: like screen while it is weak, and never past white,
 * however strong; where L is above 1 nothing is added.
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

    public function prepare(array $values, Site $site): Effect
    {
        return new GlowEffect($values['radius'] * $site->rows(), $values['intensity'], $values['threshold'], $site->transfer());
    }
}
