<?php

declare(strict_types=1);

namespace App\Footage;

/** A file that cannot be read as footage. */
final class UnreadableFootage extends \RuntimeException
{
    public static function because(string $reason): self
    {
        return new self("This file cannot be read as video ({$reason}).");
    }

    public static function tookTooLong(): self
    {
        return new self('This file could not be read in time. It may be damaged.');
    }

    public static function saysTooMuch(): self
    {
        return new self('This file has more to tell than any footage has. It is damaged, or was made to be so.');
    }

    public static function noVideo(): self
    {
        return new self('There is no picture in this file, only sound or data.');
    }

    public static function noFrames(): self
    {
        return new self('There is not a single whole frame in this file.');
    }

    public static function gone(string $name): self
    {
        return new self("The footage of {$name} is no longer where it was. Bring it in again to go on.");
    }

    public static function silent(string $name, int $seconds): self
    {
        return new self("{$name} could not be fetched: nothing of it came for {$seconds} seconds.");
    }

    public static function frame(int $number): self
    {
        return new self("Frame {$number} cannot be decoded.");
    }

    public static function archive(string $reason): self
    {
        return new self("This archive cannot be used as an image sequence: {$reason}.");
    }
}
