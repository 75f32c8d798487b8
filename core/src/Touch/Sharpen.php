<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Touch\Internal\SharpenEffect;

/**
 * Unsharp mask on luma: Y' + strength x c(Y' - G(Y')), G a Gaussian whose sigma is the radius (picture heights) and
 * c(d) = d max(0, 1 - threshold² / d²), which leaves what is weaker than the threshold (noise) alone without a step.
 * What it adds to Y' is added to all three channels.
 */
final class Sharpen implements Kind
{
    use Neutral;

    public function name(): string
    {
        return 'sharpen';
    }

    public function parameters(): array
    {
        return [
            new Number('strength', 0, 3, 0),
            new Number('radius', 0.0005, 0.02, 0.0015, 'heights'),
            new Number('threshold', 0, 0.1, 0.004),
        ];
    }

    public function isNeutral(array $values): bool
    {
        return $values['strength'] === 0.0;
    }

    public function prepare(array $values, Site $site): Effect
    {
        return new SharpenEffect($values['radius'] * $site->rows(), $values['strength'], $values['threshold']);
    }
}
