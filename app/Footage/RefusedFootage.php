<?php

declare(strict_types=1);

namespace App\Footage;

/** Footage that could be read but would be treated wrongly, or that is beyond a limit. */
final class RefusedFootage extends \DomainException
{
    public static function tooLarge(int $width, int $height, int $limit): self
    {
        return new self("The picture is {$width} x {$height}; the limit is {$limit} pixels on a side.");
    }

    public static function tooManyPixels(int $width, int $height, int $limit): self
    {
        return new self(sprintf('The picture is %d x %d; the limit is %d million pixels.', $width, $height, intdiv($limit, 1_000_000)));
    }

    public static function tooSmall(int $width, int $height): self
    {
        return new self("The picture is {$width} x {$height} in square pixels; that is too small to be footage.");
    }

    public static function tooLong(int $frames, int $limit): self
    {
        return new self("The file has {$frames} frames; the limit is {$limit}.");
    }

    public static function interlaced(): self
    {
        return new self('This footage is interlaced. Deinterlace it first: treating fields as frames would spoil it.');
    }

    public static function transfer(string $name): self
    {
        return new self("The transfer “{$name}” is not handled yet. Bring footage in with a BT.709 or sRGB transfer.");
    }

    public static function primaries(string $name): self
    {
        return new self("The colour primaries “{$name}” are not handled yet. Bring footage in with BT.709 primaries.");
    }

    public static function matrix(string $name): self
    {
        return new self("The colour matrix “{$name}” is not handled yet.");
    }

    public static function picture(string $name, string $reason): self
    {
        return new self("{$name} {$reason}. That is not handled.");
    }

    public static function outside(string $path): self
    {
        return new self("{$path} is not inside the folders that this server may read from.");
    }

    public static function noFile(string $path): self
    {
        return new self("{$path} is neither a file nor a folder that can be read.");
    }

    public static function span(int $from, int $to, int $last): self
    {
        return new self("The span {$from} to {$to} is not within the footage, which has frames 0 to {$last}.");
    }

    public static function unpackedSize(int $limit): self
    {
        return new self(sprintf('The archive unpacks to more than the limit of %s.', \Illuminate\Support\Number::fileSize($limit)));
    }

    public static function uploadSize(int $limit): self
    {
        return new self(sprintf('The file is larger than the limit of %s.', \Illuminate\Support\Number::fileSize($limit)));
    }
}
