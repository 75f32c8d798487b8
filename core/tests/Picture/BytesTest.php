<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Picture;

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
}
