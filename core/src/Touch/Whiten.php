<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Touch\Internal\WhitenEffect;

/**
 * Takes the yellow out of teeth and lifts them, up to a ceiling. In Oklab, where a colour is a tooth's by
 *
 *     t = (1 - s(gums - .012, gums + .012, a - .25 b)) s(dark - .08, dark + .08, L)
 *
 * (s the cubic smoothstep; lips, gums and tongue are redder for their yellow than teeth, the cavity is darker):
 * b becomes b - yellow t max(0, b - clean); a likewise a - yellow t max(0, a); L becomes L + t max(0, c(L + lift) - L),
 * where c bends softly over the last .06 below the ceiling: no tooth is lifted past it, and none is darkened.
 */
final class Whiten implements InArea, Kind
{
    use Neutral;

    public function name(): string
    {
        return 'whiten';
    }

    public function parameters(): array
    {
        return [
            new Number('yellow', 0, 1, 0),
            new Number('lift', 0, 0.2, 0),
            new Number('ceiling', 0, 1, 0.85),
            new Number('clean', -0.05, 0.1, 0.01),
            new Number('gums', -0.02, 0.1, 0.025),
            new Number('dark', 0, 0.8, 0.35),
        ];
    }

    public function isNeutral(array $values): bool
    {
        return $values['yellow'] === 0.0 && $values['lift'] === 0.0;
    }

    public function prepare(array $values, Site $site): Effect
    {
        return new WhitenEffect(
            $values['yellow'],
            $values['lift'],
            $values['ceiling'],
            $values['clean'],
            $values['gums'],
            $values['dark'],
            $site->transfer(),
        );
    }
}
