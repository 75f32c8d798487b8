<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** A number set by hand on a frame. */
final readonly class Key
{
    public function __construct(public int $frame, public float $value, public Ease $ease = Ease::Smooth) {}
}
