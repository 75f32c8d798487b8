<?php

declare(strict_types=1);

namespace App\Deliveries;

final class Cancelled extends \RuntimeException
{
    public static function byUser(): self
    {
        return new self('Cancelled.');
    }
}
