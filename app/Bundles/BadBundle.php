<?php

declare(strict_types=1);

namespace App\Bundles;

/** A bundle that cannot be taken in; no job and no shot has anything of it. */
final class BadBundle extends \DomainException
{
    public static function because(string $reason, string $place = ''): self
    {
        return new self('This bundle cannot be taken in: ' . ($place === '' ? '' : "{$place}: ") . "{$reason}.");
    }
}
