<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** A colour taken from the picture for a pick. */
final readonly class Sample
{
    /**
     * @param array{float, float}        $at    picture heights
     * @param array{float, float, float} $rgb   R'G'B' there
     * @param bool                       $taken whether the pick should have it, or should not
     */
    public function __construct(public int $frame, public array $at, public array $rgb, public bool $taken) {}
}
