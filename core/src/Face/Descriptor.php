<?php

declare(strict_types=1);

namespace Cossel\Core\Face;

/**
 * What tells a face from others, as numbers a net gives (a MobileNet's pooled features): much the same for one person, whatever the light,
 * the side they are seen from and the way they look. Only a likeness, never a proof.
 */
final readonly class Descriptor
{
    public const NUMBERS = 1024;
    /**
     * From here on two are taken for one person. Single frames of a real man had .83 or more with the mean of others, down to faces of 30
     * pixels; two of 21 other people .67 at the most, two rendered heads .73.
     */
    private const SAME = 0.75;
    /** Below this two are nobody's who was in one place a moment before. */
    private const OTHER = 0.5;

    /** @param list<float> $direction as one of length 1 */
    private function __construct(private array $direction) {}

    /**
     * @param string $bytes one for each number, in parts of the largest
     *
     * @throws \InvalidArgumentException unless there are 1024
     */
    public static function of(string $bytes): self
    {
        if (strlen($bytes) !== self::NUMBERS) {
            throw new \InvalidArgumentException('A descriptor has ' . self::NUMBERS . ' numbers, ' . strlen($bytes) . ' given.');
        }

        return self::along(array_values((array) unpack('C*', $bytes)));
    }

    /** @param non-empty-list<self> $all of one face */
    public static function mean(array $all): self
    {
        $directions = array_map(static fn(self $one): array => $one->direction, $all);

        return self::along(array_map(static fn(float ...$v): float => array_sum($v), ...$directions));
    }

    /** As {@see of} takes it. */
    public function bytes(): string
    {
        $most = max(1e-9, ...$this->direction);

        return pack('C*', ...array_map(static fn(float $v): int => (int) round(255 * $v / $most), $this->direction));
    }

    /** How much two are alike: the cosine between them, 0 to 1. */
    public function alike(self $other): float
    {
        $sum = 0.0;
        foreach ($this->direction as $k => $v) {
            $sum += $v * $other->direction[$k];
        }

        return $sum;
    }

    /** How far apart two are, in what one person may differ by: both can be one person's up to 1. */
    public function apart(self $other): float
    {
        return (1.0 - $this->alike($other)) / (1.0 - self::SAME);
    }

    /** Whether both are surely two people's. */
    public function isOther(self $other): bool
    {
        return $this->alike($other) < self::OTHER;
    }

    /** @param list<int|float> $numbers none below 0 */
    private static function along(array $numbers): self
    {
        $length = max(1e-9, sqrt(array_sum(array_map(static fn(int|float $v): int|float => $v * $v, $numbers))));

        return new self(array_map(static fn(int|float $v): float => $v / $length, $numbers));
    }
}
