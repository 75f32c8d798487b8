<?php

declare(strict_types=1);

namespace Cossel\Core\Tests;

use Random\Engine\Mt19937;
use Random\Randomizer;

/** Repeatable random numbers. */
final class Chance
{
    private function __construct(private readonly Randomizer $random) {}

    public static function seeded(int $seed): self
    {
        return new self(new Randomizer(new Mt19937($seed)));
    }

    public function whole(int $least, int $most): int
    {
        return $this->random->getInt($least, $most);
    }

    public function between(float $least, float $most): float
    {
        return $least + ($most - $least) * $this->random->getInt(0, 1 << 30) / (1 << 30);
    }
}
