<?php

declare(strict_types=1);

namespace Cossel\Core\Geometry;

/** A surface as it lies in a picture after it has turned and moved. */
final readonly class TurnedSurface
{
    public function __construct(private Matrix $motion, private Parallax $parallax) {}

    /** @return array{float, float} where a place of it is seen */
    public function apply(float $x, float $y): array
    {
        return $this->motion->apply(...$this->parallax->apply($x, $y));
    }

    /**
     * Which way the surface faced, before it turned, that is seen at a place.
     *
     * @return array{float, float} what of its unit normal lies across the picture
     */
    public function normal(float $x, float $y): array
    {
        $place = $this->parallax->undo(...$this->motion->inverse()->apply($x, $y));
        [$zx, $zy] = $this->parallax->relief->slope(...$place);
        $length = sqrt(1.0 + $zx * $zx + $zy * $zy);

        return [-$zx / $length, -$zy / $length];
    }
}
