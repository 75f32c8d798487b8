<?php

declare(strict_types=1);

namespace Cossel\Core\Colour;

/**
 * Oklab, a perceptual space: L 0..1, a and b about -0.4..0.4.
 * Source: B. Ottosson, "A perceptual color space for image processing", 2020 (matrices for linear BT.709 primaries). The way
 * back is the inverse of these matrices to the last digit, so that dark colours come back as they were.
 */
final class Oklab
{
    /** @return array{float, float, float} L, a, b of linear BT.709 light */
    public static function fromLinear(float $r, float $g, float $b): array
    {
        $l = self::cbrt(0.4122214708 * $r + 0.5363325363 * $g + 0.0514459929 * $b);
        $m = self::cbrt(0.2119034982 * $r + 0.6806995451 * $g + 0.1073969566 * $b);
        $s = self::cbrt(0.0883024619 * $r + 0.2817188376 * $g + 0.6299787005 * $b);

        return [
            0.2104542553 * $l + 0.7936177850 * $m - 0.0040720468 * $s,
            1.9779984951 * $l - 2.4285922050 * $m + 0.4505937099 * $s,
            0.0259040371 * $l + 0.7827717662 * $m - 0.8086757660 * $s,
        ];
    }

    /** @return array{float, float, float} linear BT.709 light of L, a, b */
    public static function toLinear(float $lightness, float $a, float $b): array
    {
        $l = (0.9999999984505198 * $lightness + 0.39633779217376786 * $a + 0.2158037580607588 * $b) ** 3;
        $m = (1.0000000088817609 * $lightness - 0.10556134232365635 * $a - 0.06385417477170591 * $b) ** 3;
        $s = (1.0000000546724108 * $lightness - 0.08948418209496575 * $a - 1.2914855378640917 * $b) ** 3;

        return [
            4.076741661347994 * $l - 3.3077115904081933 * $m + 0.2309699287294279 * $s,
            -1.268438004092176 * $l + 2.6097574006633715 * $m - 0.3413193963102196 * $s,
            -0.004196086541837109 * $l - 0.7034186144594496 * $m + 1.7076147009309448 * $s,
        ];
    }

    private static function cbrt(float $x): float
    {
        return $x < 0 ? -((-$x) ** (1 / 3)) : $x ** (1 / 3);
    }
}
