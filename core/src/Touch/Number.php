<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

/** A number, which may be keyed over the shot. */
final readonly class Number extends Parameter
{
    public function __construct(string $name, public float $least, public float $most, float $neutral, public string $unit = '')
    {
        parent::__construct($name, $neutral);
    }
}
