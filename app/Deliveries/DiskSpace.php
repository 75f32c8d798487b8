<?php

declare(strict_types=1);

namespace App\Deliveries;

use App\Footage\FootageInfo;
use App\Footage\StorageFull;
use Illuminate\Support\Facades\Storage;

/** Whether there is room for what is about to be rendered, by what such files take at the most. */
final class DiskSpace
{
    /** Bytes a pixel of a finished frame, and of the parts that it is made of until then. */
    private const OF = ['ffv1' => 5.0, 'ffv1-10' => 3.0, 'prores' => 1.2, 'exr' => 6.0, 'tiff' => 6.0, 'png' => 6.0, 'av1' => 0.4, 'vp9' => 0.4];
    private const PARTS = 6.0;
    /** What is left free for everything else. */
    private const KEPT = 200 * 1024 ** 2;

    /** @return int bytes, about */
    public static function needed(FootageInfo $footage, Format $format, int $frames): int
    {
        return (int) ($frames * $footage->width * $footage->height * (self::OF[$format->value] + self::PARTS));
    }

    /**
     * @param string $or what can be done instead of making room
     *
     * @throws StorageFull with what is there and what is wanted
     */
    public static function check(int $needed, string $or): void
    {
        $free = @disk_free_space(Storage::disk('data')->path(''));
        if ($free !== false && $free - self::KEPT < $needed) {
            throw StorageFull::wanting($needed, (int) $free, $or);
        }
    }
}
