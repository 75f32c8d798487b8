<?php

declare(strict_types=1);

namespace App\Following;

/** An area cannot be followed as it is. */
final class CannotFollow extends \DomainException
{
    public static function withoutOutline(string $area): self
    {
        return new self("{$area} has no outline to follow yet. Draw one first.");
    }

    public static function already(string $area): self
    {
        return new self("{$area} is being followed already.");
    }
}
