<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

use Cossel\Core\Geometry\Matrix;

/** A point of a path with the tangent handles of the pieces that come in and go out, relative to it. */
final readonly class PathPoint
{
    public function __construct(
        public float $x,
        public float $y,
        public float $inX = 0.0,
        public float $inY = 0.0,
        public float $outX = 0.0,
        public float $outY = 0.0,
    ) {}

    /** @param float $t 0 for this point, 1 for the other */
    public function mixed(self $other, float $t): self
    {
        $mix = static fn(float $a, float $b): float => $a + ($b - $a) * $t;

        return new self(
            $mix($this->x, $other->x),
            $mix($this->y, $other->y),
            $mix($this->inX, $other->inX),
            $mix($this->inY, $other->inY),
            $mix($this->outX, $other->outX),
            $mix($this->outY, $other->outY),
        );
    }

    public function by(float $x, float $y): self
    {
        return new self($this->x + $x, $this->y + $y, $this->inX, $this->inY, $this->outX, $this->outY);
    }

    /** Where a motion takes it; its handles go with the motion's linear part there. */
    public function moved(Matrix $motion): self
    {
        [$x, $y] = $motion->apply($this->x, $this->y);
        [$a, $b, , $c, $d] = $motion->affineAt($this->x, $this->y)->m;

        return new self(
            $x,
            $y,
            $a * $this->inX + $b * $this->inY,
            $c * $this->inX + $d * $this->inY,
            $a * $this->outX + $b * $this->outY,
            $c * $this->outX + $d * $this->outY,
        );
    }
}
