<?php

declare(strict_types=1);

namespace App\Models;

/** Something was asked of a shot whose footage is not there yet, or could not be read. */
final class ShotNotReady extends \DomainException
{
    public static function because(?string $error): self
    {
        return new self($error ?? 'This shot is still being read.');
    }
}
