<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

/** What a kind of touch looks at to compute a pixel: the pixel alone, its neighbourhood, or the whole area. */
final readonly class Sight
{
    private function __construct(public int $margin, public bool $area) {}

    public static function pixel(): self
    {
        return new self(0, false);
    }

    /** @param float $pixels how far around a pixel */
    public static function around(float $pixels): self
    {
        return new self((int) ceil($pixels), false);
    }

    /** @param float $pixels how far around the area's matte */
    public static function area(float $pixels = 0.0): self
    {
        return new self((int) ceil($pixels), true);
    }
}
