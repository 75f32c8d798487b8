<?php

declare(strict_types=1);

namespace Cossel\Core\Colour;

use Cossel\Core\Geometry\Matrix;

/**
 * Whites along the daylight locus and beside it, and the change of light from D65 to them.
 */
final class WhitePoint
{
    /** Reciprocal megakelvin of D65. */
    private const D65_MIRED = 1e6 / 6504;

    /** Linear BT.709 light to XYZ, D65 white (ITU-R BT.709-6 primaries). */
    private const RGB_TO_XYZ = [
        0.4123907992659595, 0.3575843393838780, 0.1804807884018343,
        0.2126390058715104, 0.7151686787677559, 0.0721923153607337,
        0.0193308187155918, 0.1191947797946259, 0.9505321522496608,
    ];

    /** Bradford cone responses (K. M. Lam 1985; ICC.1:2022 annex E). */
    private const BRADFORD = [
        0.8951, 0.2664, -0.1614,
        -0.7502, 1.7135, 0.0367,
        0.0389, -0.0685, 1.0296,
    ];

    /**
     * The 3x3 matrix (row-major, acting on linear R, G, B) that turns a picture lit by D65 into one lit by another white.
     *
     * @param float $mired shift along the daylight locus in reciprocal megakelvin, + is warmer; -95..95
     * @param float $tint  distance from the locus in thousandths of CIE 1960 uv, + is towards magenta; -30..30
     *
     * @return array{float, float, float, float, float, float, float, float, float}
     */
    public static function change(float $mired, float $tint): array
    {
        $from = self::white(self::D65_MIRED, 0);
        $to = self::white(self::D65_MIRED + $mired, $tint);
        $cones = self::BRADFORD;
        $a = self::apply($cones, $from);
        $b = self::apply($cones, $to);
        $scale = [$b[0] / $a[0], 0, 0, 0, $b[1] / $a[1], 0, 0, 0, $b[2] / $a[2]];
        $adapt = self::multiply(self::inverse($cones), self::multiply($scale, $cones));

        return self::multiply(self::inverse(self::RGB_TO_XYZ), self::multiply($adapt, self::RGB_TO_XYZ));
    }

    /**
     * Chromaticity of daylight (CIE 015:2018, 4000 K to 25000 K), moved off the locus in CIE 1960 uv.
     *
     * @return array{float, float, float} XYZ with Y = 1
     */
    private static function white(float $mired, float $tint): array
    {
        [$u, $v] = self::uv($mired);
        [$u2, $v2] = self::uv($mired + 0.1);
        [$du, $dv] = [$u2 - $u, $v2 - $v];
        $off = $tint * 1e-3 / hypot($du, $dv);
        // The locus runs towards higher u with falling colour temperature; magenta lies below it (lower v).
        $u += $off * $dv;
        $v -= $off * $du;
        $d = 2 * $u - 8 * $v + 4;
        $x = 3 * $u / $d;
        $y = 2 * $v / $d;

        return [$x / $y, 1.0, (1 - $x - $y) / $y];
    }

    /** @return array{float, float} CIE 1960 u, v */
    private static function uv(float $mired): array
    {
        $t = $mired / 1000;
        // 10^3/T polynomials of the CIE daylight locus.
        $x = 1e6 / $mired <= 7000
            ? 0.244063 + 0.09911 * $t + 2.9678 * $t * $t - 4.6070 * $t ** 3
            : 0.237040 + 0.24748 * $t + 1.9018 * $t * $t - 2.0064 * $t ** 3;
        $y = -3.0 * $x * $x + 2.870 * $x - 0.275;
        $d = -2 * $x + 12 * $y + 3;

        return [4 * $x / $d, 6 * $y / $d];
    }

    /**
     * @param array<int, float|int> $m
     * @param array<int, float>     $v
     *
     * @return array{float, float, float}
     */
    private static function apply(array $m, array $v): array
    {
        return [
            $m[0] * $v[0] + $m[1] * $v[1] + $m[2] * $v[2],
            $m[3] * $v[0] + $m[4] * $v[1] + $m[5] * $v[2],
            $m[6] * $v[0] + $m[7] * $v[1] + $m[8] * $v[2],
        ];
    }

    /**
     * @param array<int, float|int> $a
     * @param array<int, float|int> $b
     *
     * @return array{float, float, float, float, float, float, float, float, float}
     */
    private static function multiply(array $a, array $b): array
    {
        return Matrix::of($a)->times(Matrix::of($b))->m;
    }

    /**
     * @param array<int, float|int> $a
     *
     * @return array{float, float, float, float, float, float, float, float, float}
     */
    private static function inverse(array $a): array
    {
        return Matrix::of($a)->inverse()->m;
    }
}
