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
}
