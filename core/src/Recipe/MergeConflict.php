<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** Two edits want different things in the same place. */
final class MergeConflict extends \DomainException
{
    private function __construct(public readonly string $pointer)
    {
        parent::__construct("Both edits change {$pointer}.");
    }

    public static function at(string $pointer): self
    {
        return new self($pointer);
    }
}
