<?php

declare(strict_types=1);

namespace Cossel\Core\Picture;

/** Flat memory of C, for samples and pixels. */
final class Memory
{
    private static ?\FFI $ffi = null;

    /** @param string $type as C writes it, such as uint16_t[100] */
    public static function of(string $type): \FFI\CData
    {
        return self::ffi()->new($type);
    }

    /** The same memory seen as another type. */
    public static function as(string $type, \FFI\CData $memory): \FFI\CData
    {
        return self::ffi()->cast($type, $memory);
    }

    private static function ffi(): \FFI
    {
        return self::$ffi ??= \FFI::cdef();
    }
}
