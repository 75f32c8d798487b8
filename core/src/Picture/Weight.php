<?php

declare(strict_types=1);

namespace Cossel\Core\Picture;

/**
 * How strongly a touch acts on each pixel of a rectangle: offset + scale x matte. Inside an area that is
 * amount x M, outside it amount - amount x M, without copying the matte.
 */
final readonly class Weight
{
    private function __construct(public Grey $matte, public float $offset, public float $scale) {}

    /** Where it says something. */
    public function rect(): Rect
    {
        return $this->matte->rect;
    }

    public static function inside(Grey $matte, float $amount): self
    {
        return new self($matte, 0.0, $amount);
    }

    public static function outside(Grey $matte, float $amount): self
    {
        return new self($matte, $amount, -$amount);
    }

    public static function everywhere(Rect $rect, float $amount): self
    {
        return new self(Grey::filled($rect, 1.0), 0.0, $amount);
    }
}
