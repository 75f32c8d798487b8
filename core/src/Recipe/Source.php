<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** The footage a recipe was made for. */
final readonly class Source
{
    /**
     * @param array{int, int} $span frames treated, both included
     * @param string          $rate frames a second as a fraction, "24000/1001"
     * @param array{int, int} $size width and height in square pixels
     */
    public function __construct(public string $sha256, public array $span, public string $rate, public array $size) {}

    public function aspect(): float
    {
        return $this->size[0] / $this->size[1];
    }
}
