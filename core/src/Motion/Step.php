<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Geometry\Matrix;

/** One frame of a track. */
final readonly class Step
{
    /**
     * @param Matrix $matrix     from the track's reference to this frame, in picture heights
     * @param float  $confidence 0 to 1
     */
    public function __construct(public Matrix $matrix, public State $state, public float $confidence) {}
}
