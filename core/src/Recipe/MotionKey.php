<?php

declare(strict_types=1);

namespace Cossel\Core\Recipe;

/** A correction by hand on top of the track: sheared, scaled, turned about the pivot and moved. */
final readonly class MotionKey
{
    /**
     * @param float $turn  degrees clockwise
     * @param float $shear how far a point goes to the right for each picture height it lies below the pivot
     */
    public function __construct(
        public int $frame,
        public float $moveX = 0.0,
        public float $moveY = 0.0,
        public float $turn = 0.0,
        public float $scale = 1.0,
        public float $shear = 0.0,
        public Ease $ease = Ease::Smooth,
    ) {}

    /**
     * The correction on a frame.
     *
     * @param non-empty-list<self> $keys by rising frame
     */
    public static function blend(array $keys, int $frame): self
    {
        [$a, $b, $t] = Keyed::between($keys, $frame);
        $mix = static fn(float $from, float $to): float => $from + ($to - $from) * $t;

        return new self(
            $frame,
            $mix($a->moveX, $b->moveX),
            $mix($a->moveY, $b->moveY),
            $mix($a->turn, $b->turn),
            $mix($a->scale, $b->scale),
            $mix($a->shear, $b->shear),
        );
    }
}
