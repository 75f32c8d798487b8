<?php

declare(strict_types=1);

namespace Cossel\Core\Carry;

use Cossel\Core\Recipe\Recipe;

/** A recipe with a treatment carried into it. */
final readonly class Carried
{
    /**
     * @param array<string, string> $areas ids of the areas that were carried => ids of those that took them
     * @param list<string>          $new   ids of areas that were not there: they have to be followed, or ride
     * @param list<string>          $words what could not be done, or only so: sentences without their stops
     */
    public function __construct(public Recipe $recipe, public array $areas, public array $new, public array $words) {}
}
