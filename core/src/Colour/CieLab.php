<?php

declare(strict_types=1);

namespace Cossel\Core\Colour;

/**
 * CIE 1976 L*a*b* (CIE 015:2018) of linear BT.709 light with its D65 white, and the colour difference CIEDE2000 (CIE
 * 142-2001; written after G. Sharma, W. Wu, E. Dalal, "The CIEDE2000 color-difference formula", Color Res. Appl. 30, 2005).
 */
final class CieLab
{
    private const WHITE = [0.9504559270516716, 1.0, 1.0890577507598784];

    /** @return array{float, float, float} L* 0..100, a*, b* */
    public static function fromLinear(float $r, float $g, float $b): array
    {
        $f = static fn(float $t): float => $t > 216 / 24389 ? $t ** (1 / 3) : (24389 / 27 * $t + 16) / 116;
        $x = $f((0.4123907992659595 * $r + 0.3575843393838780 * $g + 0.1804807884018343 * $b) / self::WHITE[0]);
        $y = $f(0.2126390058715104 * $r + 0.7151686787677559 * $g + 0.0721923153607337 * $b);
        $z = $f((0.0193308187155918 * $r + 0.1191947797946259 * $g + 0.9505321522496608 * $b) / self::WHITE[2]);

        return [116 * $y - 16, 500 * ($x - $y), 200 * ($y - $z)];
    }

    /**
     * @param array{float, float, float} $one   L*, a*, b*
     * @param array{float, float, float} $other
     */
    public static function difference(array $one, array $other): float
    {
        [$l1, $a1, $b1] = $one;
        [$l2, $a2, $b2] = $other;
        $mean7 = ((hypot($a1, $b1) + hypot($a2, $b2)) / 2) ** 7;
        $g = 0.5 * (1 - sqrt($mean7 / ($mean7 + 25 ** 7)));
        $a1 *= 1 + $g;
        $a2 *= 1 + $g;
        $c1 = hypot($a1, $b1);
        $c2 = hypot($a2, $b2);
        $h1 = self::hue($a1, $b1);
        $h2 = self::hue($a2, $b2);
        $dh = $c1 * $c2 == 0.0 ? 0.0 : $h2 - $h1;
        $dh -= $dh > 180 ? 360 : ($dh < -180 ? -360 : 0);
        $dl = $l2 - $l1;
        $dc = $c2 - $c1;
        $dH = 2 * sqrt($c1 * $c2) * sin(deg2rad($dh / 2));
        $l = ($l1 + $l2) / 2;
        $c = ($c1 + $c2) / 2;
        $h = $h1 + $h2;
        if ($c1 * $c2 != 0.0) {
            $h = abs($h1 - $h2) <= 180 ? $h / 2 : ($h < 360 ? ($h + 360) / 2 : ($h - 360) / 2);
        }
        $t = 1 - 0.17 * cos(deg2rad($h - 30))
            + 0.24 * cos(deg2rad(2 * $h))
            + 0.32 * cos(deg2rad(3 * $h + 6)) - 0.2 * cos(deg2rad(4 * $h - 63));
        $sl = 1 + 0.015 * ($l - 50) ** 2 / sqrt(20 + ($l - 50) ** 2);
        $sc = 1 + 0.045 * $c;
        $sh = 1 + 0.015 * $c * $t;
        $rotation = -2 * sqrt($c ** 7 / ($c ** 7 + 25 ** 7)) * sin(deg2rad(60 * exp(-(($h - 275) / 25) ** 2)));

        return sqrt(($dl / $sl) ** 2 + ($dc / $sc) ** 2 + ($dH / $sh) ** 2 + $rotation * ($dc / $sc) * ($dH / $sh));
    }

    private static function hue(float $a, float $b): float
    {
        return $a == 0.0 && $b == 0.0 ? 0.0 : fmod(rad2deg(atan2($b, $a)) + 360, 360);
    }
}
