<?php

declare(strict_types=1);

namespace Cossel\Core\Picture;

/**
 * Three planes of display-referred R'G'B' over a rectangle of the picture: 0 black, 1 reference white, unclipped.
 * The working buffer of the renderer, changed in place by the kernels; row by row, packed.
 */
final class Planes
{
    /**
     * @param list<float> $r
     * @param list<float> $g
     * @param list<float> $b
     */
    public function __construct(
        public readonly Rect $rect,
        public array $r,
        public array $g,
        public array $b,
    ) {}

    public static function filled(Rect $rect, float $r, float $g, float $b): self
    {
        $n = $rect->count();

        return new self($rect, array_fill(0, $n, $r), array_fill(0, $n, $g), array_fill(0, $n, $b));
    }

    /** @return array{float, float, float} the R'G'B' of the pixel at these picture coordinates */
    public function at(int $x, int $y): array
    {
        $i = ($y - $this->rect->y) * $this->rect->width + $x - $this->rect->x;

        return [$this->r[$i], $this->g[$i], $this->b[$i]];
    }
}
