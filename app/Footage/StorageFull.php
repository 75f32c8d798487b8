<?php

declare(strict_types=1);

namespace App\Footage;

use Illuminate\Support\Facades\Storage;
use League\Flysystem\FilesystemException;

/** Something could not be written, as a rule because the disk is full. */
final class StorageFull extends \RuntimeException
{
    /** Less than this and it is the disk that is full, whatever the system calls it. */
    private const LITTLE = 16 * 1024 ** 2;

    public static function full(): self
    {
        return new self('The disk is full. What was saved is kept; make room and try it again.');
    }

    public static function wanting(int $needed, int $free, string $or): self
    {
        $size = static fn(int $bytes): string => sprintf('%.1f GB', $bytes / 1e9);

        return new self("This needs about {$size($needed)} of room, and {$size(max(0, $free))} are free. Make room, or {$or}.");
    }

    /** @param string $otherwise what it is where there is room */
    public static function or(string $otherwise): self
    {
        return self::isFull() ? self::full() : new self($otherwise);
    }

    /** Whether something failed because there is no room. */
    public static function causes(\Throwable $reason): bool
    {
        return preg_match('/No space left on device|database or disk is full|disk I\/O error|Disk quota exceeded/i', $reason->getMessage()) === 1
            || (($reason instanceof \ErrorException || $reason instanceof FilesystemException) && self::isFull());
    }

    public static function isFull(): bool
    {
        $free = @disk_free_space(Storage::disk('data')->path(''));

        return $free !== false && $free < self::LITTLE;
    }
}
