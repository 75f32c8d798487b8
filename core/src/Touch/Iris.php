<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Touch\Internal\IrisSurvey;

/**
 * A new colour for an iris, with its fibres, pupil and catch-light kept. The iris is the ellipse of the area's extent; r is
 * the distance from its middle, 1 at its edge, and s the cubic smoothstep. It acts with
 *
 *     s(pupil - .06, pupil + .06, r) (1 - s(.98, 1.1, r)) (1 - s(q + .02, q + .14, L) (1 - s(.3, .7, C/c)))
 *
 * where q is the 80th percentile of L and c the robust mean of chroma C between pupil and edge: what is brighter and has
 * lost its colour is the catch-light, what is brighter and coloured are fibres. Then, in Oklab:
 *
 *  - light and contrast: L' = L + light s(0, .25, L) + contrast (L - m), m the robust mean;
 *  - ring: L' x (1 - .5 ring s(.72, .98, r)), the dark edge that irises have;
 *  - colour: hue as asked; chroma x (.35 + .65 min(1.6, L / m)), so that fibres stay apart and the dark stays dark.
 *
 * Blends: tint puts that colour in place; overlay, soft-light and colour blend the plain colour at the mean's lightness into
 * the picture by the formulas of W3C Compositing and Blending Level 1, on R'G'B' cut to 0..1; all by strength.
 */
final class Iris implements InArea, Kind
{
    use Neutral;

    public function name(): string
    {
        return 'iris';
    }

    public function parameters(): array
    {
        return [
            new Number('strength', 0, 1, 0),
            new Number('hue', 0, 360, 250, '°'),
            new Number('chroma', 0, 0.3, 0.06),
            new Choice('blend', ['tint', 'overlay', 'soft-light', 'colour']),
            new Number('light', -0.3, 0.3, 0),
            new Number('contrast', -1, 2, 0),
            new Number('ring', 0, 1, 0),
            new Number('pupil', 0, 0.9, 0.36),
        ];
    }

    public function isNeutral(array $values): bool
    {
        return $values['strength'] === 0.0 && $values['light'] === 0.0 && $values['contrast'] === 0.0 && $values['ring'] === 0.0;
    }

    public function prepare(array $values, Site $site): Survey
    {
        return new IrisSurvey($values, $site);
    }
}
