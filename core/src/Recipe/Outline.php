<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** The shapes of an area, stated as they stand on one frame. */
final readonly class Outline
{
    /** @param list<Ellipse> $shapes joined in order */
    public function __construct(public int $at, public array $shapes = [], public bool $invert = false) {}
}
