<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** How values go from one keyframe to the next. */
enum Ease: string
{
    case Smooth = 'smooth';
    case Linear = 'linear';
    case Hold = 'hold';

    /** @param float $t 0 at this keyframe, 1 at the next */
    public function weight(float $t): float
    {
        return match ($this) {
            self::Smooth => $t * $t * (3 - 2 * $t),
            self::Linear => $t,
            self::Hold => 0.0,
        };
    }
}
