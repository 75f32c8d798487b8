<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

/** A region cannot be followed because there is not enough in it to hold on to. */
final class TooLittleTexture extends \DomainException
{
    public static function on(int $frame, int $points): self
    {
        return new self("Only {$points} points to hold on to inside the outline on frame {$frame}. Make it larger, or look at a margin round it too.");
    }

    public static function outsideThePicture(int $frame): self
    {
        return new self("The outline lies outside the picture on frame {$frame}. Start on a frame where it is inside.");
    }
}
