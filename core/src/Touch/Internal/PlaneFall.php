<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

/** It rises evenly across the picture. */
final readonly class PlaneFall implements Fall
{
    /** @param float $origin at the picture's corner */
    public function __construct(private float $right, private float $down, private float $origin) {}

    public function runs(int $x, int $y, int $n): array
    {
        return [[$n, $this->origin + $this->right * ($x + 0.5) + $this->down * ($y + 0.5), $this->right]];
    }
}
