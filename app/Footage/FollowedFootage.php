<?php

declare(strict_types=1);

namespace App\Footage;

use Cossel\Core\Motion\FrameSource;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;

/** Footage as a follower sees it: at a size where faces have enough pixels and no more. */
final class FollowedFootage implements FrameSource
{
    public const HEIGHT = 540;
    /** Frames decoded at once where it is gone through backwards: footage can only be read forwards. */
    private const BACK = 48;

    /** @var array{int, Frame}|null the frame read last */
    private ?array $read = null;
    /** The first frame that was decoded for going backwards. */
    private int $back = \PHP_INT_MAX;

    /** @param int $height rows of the pictures that are looked at, no more than the footage has */
    public function __construct(private readonly FrameCache $frames, private readonly FootageFile $footage, private readonly int $height = self::HEIGHT) {}

    public function frame(): Rect
    {
        return FrameCache::sized($this->footage->info, $this->height)->rect();
    }

    public function luma(int $frame, Rect $rect): Grey
    {
        return $this->read($frame)->luma($rect);
    }

    public function colour(int $frame, Rect $rect): Planes
    {
        return $this->read($frame)->window($rect);
    }

    private function read(int $frame): Frame
    {
        if ($this->read === null || $this->read[0] !== $frame) {
            if ($this->read !== null && $frame < $this->read[0] && $frame < $this->back) {
                $this->back = max(0, $frame - self::BACK + 1);
                $this->frames->prepare($this->footage, $this->back, $frame, $this->height);
            }
            $this->read = [$frame, $this->frames->frame($this->footage, $frame, $this->height)];
        }

        return $this->read[1];
    }
}
