<?php

declare(strict_types=1);

namespace Cossel\Core\Carry;

use Cossel\Core\Recipe\Recipe;

/** A recipe whose areas were made to look as others do. */
final readonly class Matched
{
    /** @param array<string, array{float, float}> $misses by area: how far each was off before and is after, CIEDE2000 of the means */
    public function __construct(public Recipe $recipe, public array $misses) {}
}
