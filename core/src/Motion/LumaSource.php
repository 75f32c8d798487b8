<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Rect;

/** What a follower looks at: the luma of untreated frames at one size. */
interface LumaSource
{
    /** The whole picture in pixels of this size. */
    public function frame(): Rect;

    /** Luma over a rectangle, which may lie partly outside: there the picture's edge goes on. */
    public function luma(int $frame, Rect $rect): Grey;
}
