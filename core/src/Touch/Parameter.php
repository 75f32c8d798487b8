<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

/** One number of a kind of touch. */
final readonly class Parameter
{
    /** @param float $neutral the value at which it changes nothing */
    public function __construct(
        public string $name,
        public float $least,
        public float $most,
        public float $neutral,
        public string $unit,
    ) {}
}
