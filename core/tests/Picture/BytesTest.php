<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Picture;

use Cossel\Core\Colour\Transfer;
use Cossel\Core\Picture\Bytes;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use PHPUnit\Framework\TestCase;

final class BytesTest extends TestCase
{
    public function test_eight_bit_pictures_are_clipped_and_rounded(): void
    {
        $planes = new Planes(Rect::of(0, 0, 2, 1), [1.5, 0.5], [0.25, -0.2], [0.0, 1.0]);
        self::assertSame([0, 64, 255, 0, 255, 0, 128, 0], array_values((array) unpack('C*', Bytes::bgrx8($planes))));
    }

    public function test_boundless_light_is_white(): void
    {
        $planes = new Planes(Rect::of(0, 0, 1, 1), [INF], [9e99], [-INF]);
        self::assertSame([0, 255, 255, 0], array_values((array) unpack('C*', Bytes::bgrx8($planes))));
        self::assertSame([65535, 65535, 0], array_values((array) unpack('v*', Bytes::rgb48($planes))));
        $grey = new Grey(Rect::of(0, 0, 2, 1), [INF, -INF]);
        self::assertSame([65535, 0], array_values((array) unpack('n*', Bytes::grey16($grey))));
        self::assertSame([255, 255, 255, 0, 0, 0, 0, 0], array_values((array) unpack('C*', Bytes::greyBgrx8($grey))));
    }

    public function test_sixteen_bit_pictures_keep_their_order(): void
    {
        $planes = new Planes(Rect::of(0, 0, 1, 1), [1.0], [0.5], [-1.0]);
        self::assertSame([65535, 32768, 0], array_values((array) unpack('v*', Bytes::rgb48($planes))));
    }

    public function test_mattes_are_big_endian(): void
    {
        self::assertSame([65535, 0, 16384], array_values((array) unpack('n*', Bytes::grey16(new Grey(Rect::of(0, 0, 3, 1), [1.0, 0.0, 0.25])))));
        self::assertSame([255, 255, 255, 0], array_values((array) unpack('C*', Bytes::greyBgrx8(new Grey(Rect::of(0, 0, 1, 1), [1.0])))));
    }

    public function test_linear_light_keeps_what_is_beyond_white_and_is_rounded_to_half_floats(): void
    {
        $values = [0.0, 1.0, 0.5, 1.3, -0.2, 40.0, 1e9, NAN, ...array_map(static fn(int $i): float => 0.3 + $i / 97, range(1, 50))];
        $n = count($values);
        $planes = new Planes(Rect::of(0, 0, $n, 1), $values, array_reverse($values), array_fill(0, $n, 0.25));
        [$green, $blue, $red] = array_map(static fn(string $bytes): array => array_values(unpack('g*', $bytes) ?: []), Bytes::linear($planes, Transfer::Bt1886));
        self::assertSame(array_map(strval(...), array_reverse($red)), array_map(strval(...), $green));
        self::assertEqualsWithDelta(0.25 ** 2.4, $blue[0], 0.25 ** 2.4 / 2048);
        foreach ($values as $i => $v) {
            $exact = is_nan($v) ? 0.0 : max(-65504.0, min(65504.0, ($v < 0 ? -1 : 1) * abs($v) ** 2.4));
            // Eleven bits of mantissa, rounded to the nearest.
            self::assertEqualsWithDelta($exact, $red[$i], abs($exact) / 2048, "{$v}");
            self::assertSame(0, unpack('V', pack('g', $red[$i]))[1] & 0x1FFF, "{$v}");
        }
        self::assertEqualsWithDelta(((1.3 + 0.055) / 1.055) ** 2.4, unpack('g*', Bytes::linear($planes, Transfer::Srgb)[2])[4], 0.001);
    }
}
