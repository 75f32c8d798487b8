<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Touch\Internal\ConcealSurvey;
use Cossel\Core\Touch\Internal\Patch;

/**
 * Covers a spot with what lies at an offset from it (picture heights in the outline's frame; it turns and grows with
 * the area, and is taken to whole pixels, so that grain is neither softened nor shimmers). The patch is fitted to the
 * place in the gradient domain (P. Pérez, M. Gangnet, A. Blake, "Poisson Image Editing", SIGGRAPH 2003): what place and
 * patch differ by at the rim of the spot is carried on inside as a membrane, the solution of Laplace's equation,
 * and added `fit` times. `limit` keeps to what is unlike the ring: the weight is times 1 - limit + limit s(1.5, 3.5, e),
 * e how far the softened picture is from the fitted patch, in spreads of the ring.
 */
final class Conceal implements InArea, Kind
{
    public function name(): string
    {
        return 'conceal';
    }

    public function parameters(): array
    {
        return [
            new Number('offsetX', -2, 2, 0, 'heights'),
            new Number('offsetY', -2, 2, 0, 'heights'),
            new Number('fit', 0, 1, 1),
            new Number('limit', 0, 1, 0),
        ];
    }

    public function isNeutral(array $values): bool
    {
        return $values['offsetX'] === 0.0 && $values['offsetY'] === 0.0;
    }

    public function prepare(array $values, Site $site): Survey
    {
        [$dx, $dy] = $site->extent()->shift($values['offsetX'], $values['offsetY']);
        $ring = max(3, (int) ceil(0.5 * $site->extent()->radius() * $site->rows()));
        $around = $site->bounds()->grow($ring)->intersect($site->untreated->format->rect());

        return new ConcealSurvey(
            new Patch($around, (int) round($dx * $site->rows()), (int) round($dy * $site->rows()), $values['fit'], $values['limit']),
            $ring,
        );
    }
}
