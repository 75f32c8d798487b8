<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** Some values of a shape, set by hand on a frame. */
final readonly class ShapeKey
{
    /** @param array<string, float|array{float, float}> $values by the shape's own field names */
    public function __construct(public int $frame, public array $values, public Ease $ease = Ease::Smooth) {}
}
