<?php

declare(strict_types=1);

namespace Cossel\Core\Outline;

use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Rect;

/** A shape where it stands on one frame, in pixels of that frame. */
interface ShapeMatte
{
    /** Where its matte may be other than 0. */
    public function bounds(): Rect;

    public function matte(Rect $rect): Grey;

    /** Nanoseconds to draw a pixel, about; measured. */
    public function price(): float;
}
