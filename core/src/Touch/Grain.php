<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Touch\Internal\GrainSurvey;

/**
 * Puts grain back where smoothing or covering took it. Grain is luma less its Gaussian of 1.2 pixels. Its strength is
 * measured as robust spread in the untreated frame, in the area and a quarter of its width round it, where luma is within
 * 0.15 of the area's own: round a spot most of that is the skin beside it, in a face it is the skin as it came. In the
 * treated area it is measured place by place, as the mean square over 1.5 % of the picture height, five pixels at least. What is missing to
 * `level` times the untreated, in variance, is added as noise, the same on all three channels.
 *
 * The noise comes from a tile of Gaussian numbers softened so that neighbours correlate as they do there; the tile
 * is laid anew for each frame, so a frame always gets the same and no two frames do.
 */
final class Grain implements InArea, Kind
{
    use Neutral;

    public function name(): string
    {
        return 'grain';
    }

    public function parameters(): array
    {
        return [new Number('level', 0, 2, 0)];
    }

    public function prepare(array $values, Site $site): Survey
    {
        return new GrainSurvey($values['level'], $site);
    }
}
