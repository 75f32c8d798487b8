<?php

declare(strict_types=1);

namespace App\Console;

/** A command that was asked for in a way that makes no sense. */
final class WrongUse extends \DomainException
{
    public static function because(string $reason): self
    {
        return new self($reason);
    }
}
