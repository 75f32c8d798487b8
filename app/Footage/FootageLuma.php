<?php

declare(strict_types=1);

namespace App\Footage;

use Cossel\Core\Motion\LumaSource;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Rect;

/** Footage as a follower sees it: luma, at a size where faces have enough pixels and no more. */
final readonly class FootageLuma implements LumaSource
{
    private const HEIGHT = 540;

    public function __construct(private FrameCache $frames, private FootageFile $footage) {}

    public function frame(): Rect
    {
        return FrameCache::sized($this->footage->info, self::HEIGHT)->rect();
    }

    public function luma(int $frame, Rect $rect): Grey
    {
        return $this->frames->frame($this->footage, $frame, self::HEIGHT)->luma($rect);
    }
}
