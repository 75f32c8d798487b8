<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

/** For kinds that compute each pixel from itself alone. */
trait Pointwise
{
    public function sight(array $values, Site $site): Sight
    {
        return Sight::pixel();
    }
}
