<?php

declare(strict_types=1);

namespace App\Deliveries;

final class DeliveryNotReady extends \RuntimeException
{
    public static function file(): self
    {
        return new self('This delivery has no file yet.');
    }

    public static function fileGone(): self
    {
        return new self('The file of this delivery is no longer there. Deliver the shot again.');
    }

    public static function lacks(string $format, string $encoder): self
    {
        return new self("{$format} cannot be written here: the ffmpeg that is installed has no encoder “{$encoder}”.");
    }

    public static function asRendered(string $format): self
    {
        return new self("{$format} is written as it is rendered: in the footage's own size, with nothing burnt in.");
    }
}
