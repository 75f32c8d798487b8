<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

/** A file that belongs to the recipe, by its name there; null is none. */
final readonly class Asset extends Parameter
{
    /** @param string $kind what sort of file: "cube" or "footage" */
    public function __construct(string $name, public string $kind)
    {
        parent::__construct($name, null);
    }
}
