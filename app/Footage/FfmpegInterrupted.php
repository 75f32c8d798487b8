<?php

declare(strict_types=1);

namespace App\Footage;

/** ffmpeg or ffprobe was ended from outside, or a file went away under it: nothing is wrong with the file, and the same may go well the next time. */
final class FfmpegInterrupted extends \RuntimeException
{
    public static function fileGone(): self
    {
        return new self('A file went away while ffmpeg worked on it. Try it again.');
    }

    public static function create(): self
    {
        return new self('ffmpeg was ended from outside. Try it again.');
    }
}
