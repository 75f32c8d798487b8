<?php

declare(strict_types=1);

namespace Cossel\Core\Colour;

/** A look-up table that cannot be read. */
final class InvalidCube extends \DomainException
{
    public static function at(int $line, string $expected): self
    {
        return new self("Line {$line} of the look-up table: expected {$expected}.");
    }

    public static function count(int $expected, int $found): self
    {
        return new self("The look-up table should have {$expected} entries by its size; it has {$found}.");
    }

    public static function domain(): self
    {
        return new self('The look-up table has a domain that ends before it begins.');
    }
}
