<?php

declare(strict_types=1);

namespace Cossel\Core\Picture;

/** The smooth steps that zones and selections are made of. */
final class Smooth
{
    /** The cubic smoothstep: 0 up to a, 1 from b on. */
    public static function step(float $a, float $b, float $x): float
    {
        $t = max(0.0, min(1.0, ($x - $a) / ($b - $a)));

        return $t * $t * (3 - 2 * $t);
    }
}
