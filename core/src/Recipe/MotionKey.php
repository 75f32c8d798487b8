<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** A correction by hand on top of the track: moved, turned and scaled about the pivot. */
final readonly class MotionKey
{
    public function __construct(
        public int $frame,
        public float $moveX = 0.0,
        public float $moveY = 0.0,
        public float $turn = 0.0,
        public float $scale = 1.0,
        public Ease $ease = Ease::Smooth,
    ) {}
}
