<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** The other one of two alike, such as the other eye. While linked, the area takes that one's touches. */
final readonly class Pair
{
    public function __construct(public string $with, public bool $linked) {}
}
