<?php

declare(strict_types=1);

namespace Cossel\Core\Geometry;

/**
 * The upright box round an area in its outline's frame, and the motion that brings it to the present one. Coordinates
 * across it run from -1 to 1 and move, turn and grow with it. Lengths are in picture heights.
 */
final readonly class Extent
{
    public function __construct(
        public Matrix $motion,
        public float $x,
        public float $y,
        public float $halfWidth,
        public float $halfHeight,
    ) {}

    /** @return array{float, float} where its middle is on this frame */
    public function centre(): array
    {
        return $this->motion->apply($this->x, $this->y);
    }

    /** Its size on this frame over its size in the outline's frame. */
    public function scale(): float
    {
        return $this->motion->affineAt($this->x, $this->y)->scale();
    }

    /** Its turn on this frame, degrees clockwise. */
    public function turn(): float
    {
        return $this->motion->affineAt($this->x, $this->y)->turn();
    }

    /** Its width on this frame. */
    public function width(): float
    {
        return 2 * $this->halfWidth * $this->scale();
    }

    /** The mean of its half width and half height on this frame. */
    public function radius(): float
    {
        return ($this->halfWidth + $this->halfHeight) / 2 * $this->scale();
    }

    /**
     * A shift of the outline's frame as it is on this one, at the middle.
     *
     * @return array{float, float}
     */
    public function shift(float $dx, float $dy): array
    {
        [$x, $y] = $this->centre();
        [$toX, $toY] = $this->motion->affineAt($this->x, $this->y)->apply($this->x + $dx, $this->y + $dy);

        return [$toX - $x, $toY - $y];
    }
}
