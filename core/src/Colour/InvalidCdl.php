<?php

declare(strict_types=1);

namespace Cossel\Core\Colour;

/** A colour decision list that cannot be read. */
final class InvalidCdl extends \DomainException
{
    public static function because(string $reason): self
    {
        return new self("This is no colour decision list: {$reason}.");
    }
}
