<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Recipe\PathPoint;

/** One frame of a track. */
final readonly class Step
{
    /**
     * @param Matrix               $matrix     from the track's reference to this frame, in picture heights
     * @param float                $confidence 0 to 1
     * @param list<PathPoint>|null $points     of a path whose points are followed on their own, as they are on this frame
     * @param float|null           $open       how far the lids are open, 0 to 1, where an iris is followed
     * @param array{float, float}  $depth      by how much a place that stands out by 1 is shifted besides, where there is a relief
     */
    public function __construct(
        public Matrix $matrix,
        public State $state,
        public float $confidence,
        public ?array $points = null,
        public ?float $open = null,
        public array $depth = [0.0, 0.0],
    ) {}

    /** The same, stated from another reference. */
    public function on(Matrix $reference): self
    {
        return $this->moved($this->matrix->times($reference), $this->depth);
    }

    /** @param array{float, float} $depth */
    public function moved(Matrix $matrix, array $depth = [0.0, 0.0]): self
    {
        return new self($matrix, $this->state, $this->confidence, $this->points, $this->open, $depth);
    }

    /** @param list<PathPoint> $points */
    public function along(array $points): self
    {
        return new self($this->matrix, $this->state, $this->confidence, $points, $this->open, $this->depth);
    }

    public function opened(?float $open): self
    {
        return new self($this->matrix, $this->state, $this->confidence, $this->points, $open, $this->depth);
    }
}
