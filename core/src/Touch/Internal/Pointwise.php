<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Picture\Rect;

/** For effects that compute each pixel from itself alone. */
trait Pointwise
{
    public function needs(Rect $rect): Rect
    {
        return $rect;
    }
}
