<?php

declare(strict_types=1);

namespace App\Footage;

final class FfmpegFailed extends \RuntimeException
{
    public static function because(string $reason): self
    {
        return new self("ffmpeg stopped: {$reason}.");
    }

    public static function tookTooLong(): self
    {
        return new self('ffmpeg took too long and was stopped.');
    }
}
