<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Touch\Internal\EvenSurvey;

/**
 * Evens out skin in Oklab. Everything is measured in face widths, so that it means the same near and far.
 *
 * Skin is told from eyes, lips and hair by its own likeness: with the robust mean and spread of the area, the distance d
 * of the softened a, b (in four spreads, 0.02 at least) and L (three and a half, downwards only) gives
 * s = exp(-max(0, d - 1)²·2). All means below are normalised convolutions over matte x s, so nothing else bleeds in, and
 * all changes are times s.
 *
 * With G(x) the Gaussian whose full width at half maximum is x face widths, a channel is taken apart into pores
 * v - G(.008), lines G(.008) - G(.02) and blotches G(.02) - G(.1). A band value c is diminished by amount x c / (1 +
 * (c / 4 spreads)⁴), which leaves edges alone; negative amounts bring it out.
 *
 *  - tone: 0.8 of the blotches of L, all of lines and blotches of a and b, and half of how far G(.1) of a and b is
 *    from the mean: the modelling of the face, which is in L and coarser, stays;
 *  - pores, lines, blotches: those bands of L;
 *  - redness: how far G(.008) of a is above the mean; shine: 0.8 of how far G(.008) of L is above mean + 1.2 spreads.
 */
final class Even implements InArea, Kind
{
    use Neutral;

    public function name(): string
    {
        return 'even';
    }

    public function parameters(): array
    {
        return [
            new Number('tone', 0, 1, 0),
            new Number('pores', -1, 1, 0),
            new Number('lines', -1, 1, 0),
            new Number('blotches', -1, 1, 0),
            new Number('redness', 0, 1, 0),
            new Number('shine', 0, 1, 0),
            new Number('width', 0, 4, 0, 'heights'),
        ];
    }

    public function isNeutral(array $values): bool
    {
        return array_filter([...$values, 'width' => 0.0]) === [];
    }

    public function prepare(array $values, Site $site): Survey
    {
        $width = $values['width'] > 0.0 ? $values['width'] * $site->extent()->scale() : $site->extent()->width();

        return new EvenSurvey(
            $values['tone'],
            $values['pores'],
            $values['lines'],
            $values['blotches'],
            $values['redness'],
            $values['shine'],
            $width * $site->rows(),
            $site,
        );
    }
}
