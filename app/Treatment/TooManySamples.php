<?php

declare(strict_types=1);

namespace App\Treatment;

/** A pick would hold more samples than it may. */
final class TooManySamples extends \DomainException
{
    public static function limit(int $most): self
    {
        return new self("A pick holds {$most} samples. Take some away first.");
    }
}
