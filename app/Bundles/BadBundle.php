<?php

declare(strict_types=1);

namespace App\Bundles;

/** A bundle that cannot be taken in; nothing of it was. */
final class BadBundle extends \DomainException
{
    public static function because(string $reason, string $place = ''): self
    {
        return new self('This bundle cannot be taken in: ' . ($place === '' ? '' : "{$place}: ") . "{$reason}.");
    }
}
