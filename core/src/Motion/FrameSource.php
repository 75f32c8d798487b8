<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;

/** What a follower looks at: untreated frames at one size. */
interface FrameSource
{
    /** The whole picture in pixels of this size. */
    public function frame(): Rect;

    /** Luma over a rectangle, which may lie partly outside: there the picture's edge goes on. */
    public function luma(int $frame, Rect $rect): Grey;

    /** R'G'B' over a rectangle inside the picture. */
    public function colour(int $frame, Rect $rect): Planes;
}
