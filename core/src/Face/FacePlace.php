<?php

declare(strict_types=1);

namespace Cossel\Core\Face;

/** Where a face is on a frame: its middle and its size, picture heights. */
final readonly class FacePlace
{
    public function __construct(public float $x, public float $y, public float $size) {}

    public static function of(Mesh $face): self
    {
        return new self(...[...$face->middle(), $face->size()]);
    }

    /** Whether this can be the face another one was a frame, or so many, before or after. */
    public function isNear(self $other, int $frames = 1): bool
    {
        $size = min($this->size, $other->size);
        $reach = min(1.5, 0.5 + 0.05 * ($frames - 1));

        return hypot($this->x - $other->x, $this->y - $other->y) < $reach * $size && max($this->size, $other->size) < (1 + $reach) * $size;
    }
}
