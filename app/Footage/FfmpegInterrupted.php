<?php

declare(strict_types=1);

namespace App\Footage;

/** ffmpeg or ffprobe was ended from outside: nothing is wrong with the file, and the same may go well the next time. */
final class FfmpegInterrupted extends \RuntimeException
{
    public static function create(): self
    {
        return new self('ffmpeg was ended from outside. Try it again.');
    }
}
