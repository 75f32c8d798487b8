<?php

declare(strict_types=1);

namespace Cossel\Core\Propose;

use Cossel\Core\Colour\Oklab;
use Cossel\Core\Colour\WhitePoint;

/** The temperature and tint that make a colour grey, as near as they can. */
final class WhiteBalance
{
    private const MIRED = 95.0;
    private const TINT = 30.0;

    /**
     * Steps along both axes, halved each round, towards less Oklab chroma.
     *
     * @param array{float, float, float} $light linear R, G, B of what should be grey
     *
     * @return array{float, float} mired and tint for {@see WhitePoint::change}
     */
    public static function of(array $light): array
    {
        $chroma = static function (float $mired, float $tint) use ($light): float {
            $m = WhitePoint::change($mired, $tint);
            [$r, $g, $b] = $light;
            [, $a, $b] = Oklab::fromLinear(
                $m[0] * $r + $m[1] * $g + $m[2] * $b,
                $m[3] * $r + $m[4] * $g + $m[5] * $b,
                $m[6] * $r + $m[7] * $g + $m[8] * $b,
            );

            return hypot($a, $b);
        };
        $mired = $tint = 0.0;
        for ($step = 1.0; $step > 0.002; $step /= 2) {
            do {
                $best = [$chroma($mired, $tint), $mired, $tint];
                foreach ([[1, 0], [-1, 0], [0, 1], [0, -1], [1, 1], [-1, -1], [1, -1], [-1, 1]] as [$dx, $dy]) {
                    $x = max(-self::MIRED, min(self::MIRED, $mired + $dx * $step * 48));
                    $y = max(-self::TINT, min(self::TINT, $tint + $dy * $step * 15));
                    $best = min($best, [$chroma($x, $y), $x, $y]);
                }
                $moved = $best[1] !== $mired || $best[2] !== $tint;
                [, $mired, $tint] = $best;
            } while ($moved);
        }

        return [$mired, $tint];
    }
}
