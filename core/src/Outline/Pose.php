<?php

declare(strict_types=1);

namespace Cossel\Core\Outline;

use Cossel\Core\Geometry\Matrix;

/** Where a shape is on one frame: its motion from where it is stated, and how its edge is warped on top of that. */
final readonly class Pose
{
    /**
     * @param Matrix    $motion in picture heights
     * @param Warp|null $warp   shifts the shape's edge before the motion
     */
    public function __construct(public Matrix $motion, public ?Warp $warp = null) {}

    public static function still(): self
    {
        return new self(Matrix::identity());
    }
}
