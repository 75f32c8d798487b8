<?php

declare(strict_types=1);

namespace App\Carrying;

use Cossel\Core\Motion\Track;
use Cossel\Core\Recipe\Recipe;

/** What a treatment comes to on other footage. */
final readonly class Proposed
{
    /**
     * @param array<string, Track>                $tracks by sha256: all that the recipe needs
     * @param int                                 $frame  on which the person was found
     * @param array<string, array{float, float}>  $misses by area: how far it was off before it was matched and is after, CIEDE2000
     * @param list<string>                        $words  what was done only so, or not: sentences without their stops
     */
    public function __construct(public Recipe $recipe, public array $tracks, public int $frame, public array $misses, public array $words) {}
}
