<?php

declare(strict_types=1);

namespace Cossel\Core\Picture;

use Cossel\Core\Colour\Transfer;

/** Finished pictures as bytes for encoders; values are clipped before they are rounded, so that no light is ever black. Kernel class. */
final class Bytes
{
    private const MOST_HALF = 65504.0;

    /** Four bytes a pixel, B G R and 0: clipped to 0..1 and rounded to 8 bits. */
    public static function bgrx8(Planes $planes): string
    {
        $n = $planes->rect->count();
        $out = Memory::of("uint32_t[{$n}]");
        self::fill8($planes->r, $planes->g, $planes->b, $n, $out);

        return \FFI::string($out, 4 * $n);
    }

    /** A grey plane (0..1) the same way. */
    public static function greyBgrx8(Grey $grey): string
    {
        $n = $grey->rect->count();
        $out = Memory::of("uint32_t[{$n}]");
        $v = $grey->v;
        for ($i = 0; $i < $n; ++$i) {
            $x = $v[$i] * 255 + 0.5;
            $out[$i] = 0x010101 * ($x < 0.0 ? 0 : ($x > 255.0 ? 255 : (int) $x));
        }

        return \FFI::string($out, 4 * $n);
    }

    /** Six bytes a pixel, R G B of 16 bits, little endian: clipped to 0..1. */
    public static function rgb48(Planes $planes): string
    {
        $n = $planes->rect->count();
        $size = 3 * $n;
        $out = Memory::of("uint16_t[{$size}]");
        $r = $planes->r;
        $g = $planes->g;
        $b = $planes->b;
        for ($i = 0, $k = 0; $i < $n; ++$i, $k += 3) {
            $x = $r[$i] * 65535 + 0.5;
            $out[$k] = $x < 0.0 ? 0 : ($x > 65535.0 ? 65535 : (int) $x);
            $x = $g[$i] * 65535 + 0.5;
            $out[$k + 1] = $x < 0.0 ? 0 : ($x > 65535.0 ? 65535 : (int) $x);
            $x = $b[$i] * 65535 + 0.5;
            $out[$k + 2] = $x < 0.0 ? 0 : ($x > 65535.0 ? 65535 : (int) $x);
        }

        return \FFI::string($out, 2 * $size);
    }

    /**
     * Linear light, 1 for reference white, nothing clipped but what half floats (IEEE 754 binary16) cannot hold: four bytes a
     * pixel, floats, little endian, rounded to the nearest half float, because encoders cut the rest off.
     *
     * @return array{string, string, string} green, blue, red
     */
    public static function linear(Planes $planes, Transfer $transfer): array
    {
        $n = $planes->rect->count();

        return [
            self::halves($planes->g, $n, $transfer),
            self::halves($planes->b, $n, $transfer),
            self::halves($planes->r, $n, $transfer),
        ];
    }

    /** @param list<float> $v */
    private static function halves(array $v, int $n, Transfer $transfer): string
    {
        $out = Memory::of("float[{$n}]");
        for ($i = 0; $i < $n; ++$i) {
            $l = $transfer->linear($v[$i]);
            // Where it is no number at all, it is black.
            $out[$i] = $l > self::MOST_HALF ? self::MOST_HALF : ($l < -self::MOST_HALF ? -self::MOST_HALF : (is_nan($l) ? 0.0 : $l));
        }
        $bits = Memory::as("uint32_t[{$n}]", $out);
        for ($i = 0; $i < $n; ++$i) {
            // Half of what the last bit of a half float is worth; halves nearest to zero have fewer bits, and are left as they are.
            $b = $bits[$i];
            $bits[$i] = ($b & 0x7F800000) > 0x38000000 ? ($b + 0x1000) & 0xFFFFE000 : $b;
        }

        return \FFI::string($out, 4 * $n);
    }

    /** Two bytes a pixel, 16-bit big endian grey, as PNG and PGM store it. */
    public static function grey16(Grey $grey): string
    {
        $n = $grey->rect->count();
        $out = Memory::of("uint16_t[{$n}]");
        $v = $grey->v;
        for ($i = 0; $i < $n; ++$i) {
            $x = $v[$i] * 65535 + 0.5;
            $c = $x < 0.0 ? 0 : ($x > 65535.0 ? 65535 : (int) $x);
            $out[$i] = ($c & 0xFF) << 8 | $c >> 8;
        }

        return \FFI::string($out, 2 * $n);
    }

    /**
     * @param list<float> $r
     * @param list<float> $g
     * @param list<float> $b
     */
    private static function fill8(array $r, array $g, array $b, int $n, \FFI\CData $out): void
    {
        for ($i = 0; $i < $n; ++$i) {
            $x = $r[$i] * 255 + 0.5;
            $y = $g[$i] * 255 + 0.5;
            $z = $b[$i] * 255 + 0.5;
            $x = $x < 0.0 ? 0 : ($x > 255.0 ? 255 : (int) $x);
            $y = $y < 0.0 ? 0 : ($y > 255.0 ? 255 : (int) $y);
            $z = $z < 0.0 ? 0 : ($z > 255.0 ? 255 : (int) $z);
            $out[$i] = $x << 16 | $y << 8 | $z;
        }
    }
}
