<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

/** A region cannot be followed because there is not enough in it to hold on to. */
final class TooLittleTexture extends \DomainException
{
    public static function on(int $frame, int $points): self
    {
        return new self(
            "Only {$points} points to hold on to inside the outline on frame {$frame}. Make it larger, or look at a margin round it too.",
        );
    }

    public static function outsideThePicture(int $frame): self
    {
        return new self("The outline lies outside the picture on frame {$frame}. Start on a frame where it is inside.");
    }

    public static function noPath(): self
    {
        return new self('Points can only be followed one by one on a path. Turn the outline into a path first, or choose another motion.');
    }

    public static function noIris(int $frame): self
    {
        return new self(
            "There is no round edge of an iris at the outline on frame {$frame}. Put the outline on the iris, where the eye is open.",
        );
    }

    public static function noEdge(int $frame): self
    {
        return new self("Nothing differs across the outline on frame {$frame}. Lay it along an edge that can be seen.");
    }
}
