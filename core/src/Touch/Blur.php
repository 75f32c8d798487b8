<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Touch\Internal\BlurEffect;

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

    public function prepare(array $values, Site $site): Effect
    {
        return new BlurEffect($values['radius'] * $site->rows(), $site->transfer());
    }
}
