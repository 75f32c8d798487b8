<?php

declare(strict_types=1);

namespace Cossel\Measuring\Fuzz;

use Random\Engine\Mt19937;
use Random\Randomizer;

/** Repeatable chance: the same seed, the same case. */
final class Dice
{
    private readonly Randomizer $random;

    public function __construct(public readonly int $seed)
    {
        $this->random = new Randomizer(new Mt19937($seed));
    }

    public function whole(int $least, int $most): int
    {
        return $this->random->getInt($least, $most);
    }

    public function between(float $least, float $most): float
    {
        return $least + ($most - $least) * $this->random->getInt(0, 1 << 30) / (1 << 30);
    }

    public function happens(float $share): bool
    {
        return $this->between(0, 1) < $share;
    }

    /**
     * @template T
     *
     * @param non-empty-array<T> $things
     *
     * @return T
     */
    public function one(array $things): mixed
    {
        return array_values($things)[$this->whole(0, count($things) - 1)];
    }

    public function bytes(int $n): string
    {
        return $n === 0 ? '' : $this->random->getBytes($n);
    }

    /** Something that nobody expects there. */
    public function odd(): mixed
    {
        return $this->one([
            null, true, false, 0, -1, 1, 5, '5', '', '0', 'x', '../../etc/passwd', "a\0b", "\u{202E}ab", str_repeat('ä', 300), 1.0, 1.5, -0.0,
            1e300, -1e300, 1e-300, 4.9e-324, PHP_INT_MAX, PHP_INT_MIN, 2 ** 53, [], [[]], [1, 2, 3], ['a' => 1], [[[[[[1]]]]]], ['id' => 'face'],
            array_fill(0, 300, 0), 'NaN', '1e999', '<script>', "'; drop table shots; --", '%s%n', '𝔘𝔫𝔦',
        ]);
    }
}
