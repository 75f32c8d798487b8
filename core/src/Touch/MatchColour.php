<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Touch\Internal\MatchSurvey;

/**
 * Pulls the area's colour to a target: with m the robust mean of the area in Oklab on this frame, L moves by
 * light x (target L - m L), a and b by colour x (target - m), the same for every pixel.
 */
final class MatchColour implements InArea, Kind
{
    use Neutral;

    public function name(): string
    {
        return 'match';
    }

    public function parameters(): array
    {
        return [
            new Number('light', 0, 1, 0),
            new Number('colour', 0, 1, 0),
            new Number('targetL', 0, 1, 0.65),
            new Number('targetA', -0.4, 0.4, 0.04),
            new Number('targetB', -0.4, 0.4, 0.05),
        ];
    }

    public function isNeutral(array $values): bool
    {
        return $values['light'] === 0.0 && $values['colour'] === 0.0;
    }

    public function prepare(array $values, Site $site): Survey
    {
        return new MatchSurvey($values['light'], $values['colour'], [$values['targetL'], $values['targetA'], $values['targetB']], $site);
    }
}
