<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Picture\Gaussian;
use Cossel\Core\Picture\Planes;

/** Gaussian blur of linear light; the radius is its sigma, in picture heights. */
final class Blur implements Kind
{
    use Neutral;

    public function name(): string
    {
        return 'blur';
    }

    public function parameters(): array
    {
        return [new Number('radius', 0, 0.1, 0, 'heights')];
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
        $light->r = Gaussian::values($light->r, $rect->width, $rect->height, $sigma);
        $light->g = Gaussian::values($light->g, $rect->width, $rect->height, $sigma);
        $light->b = Gaussian::values($light->b, $rect->width, $rect->height, $sigma);
        $light->into($planes, $weight, $site->transfer());
    }
}
