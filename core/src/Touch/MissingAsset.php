<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

/** A recipe names a file that is not there. */
final class MissingAsset extends \RuntimeException
{
    public static function named(string $name): self
    {
        return new self("The file “{$name}” that a touch needs is not there.");
    }
}
