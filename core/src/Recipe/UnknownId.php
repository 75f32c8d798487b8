<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** Something was named that the recipe does not have. */
final class UnknownId extends \DomainException
{
    public static function area(string $id): self
    {
        return new self("There is no area “{$id}” in this recipe.");
    }

    public static function shape(string $id): self
    {
        return new self("There is no shape “{$id}” in this outline.");
    }

    public static function touch(string $id): self
    {
        return new self("There is no touch “{$id}” in the recipe.");
    }
}
