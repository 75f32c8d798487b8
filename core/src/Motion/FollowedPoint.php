<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

/**
 * One point a region follower holds on to: where it was on the start frame, where it is now, and what it looks like.
 *
 * @internal
 *
 * @phpstan-type Patch array{t: list<float>, gx: list<float>, gy: list<float>, xx: float, xy: float, yy: float, norm: float}
 */
final class FollowedPoint
{
    public bool $found = true;
    public float $alike = 1.0;
    /** @var array{float, float, float, float} the region's turn and scale when the present look was taken */
    public array $linear = [1.0, 0.0, 0.0, 1.0];
    public bool $renewed = false;
    /** @var array{float, float, float, float} and when its first look was taken */
    public array $firstLinear = [1.0, 0.0, 0.0, 1.0];
    /** Where it was on the frame before, if it was found there. */
    public float $wasX;
    public float $wasY;

    /** @param list<Patch|null> $first its look on the start frame or on the last that was set by hand, by level */
    private function __construct(
        public readonly float $fromX,
        public readonly float $fromY,
        public float $x,
        public float $y,
        public array $first,
        /** @var list<Patch|null> */
        public array $look,
    ) {}

    /** @param list<Patch|null> $look */
    public static function at(float $x, float $y, array $look): self
    {
        return new self($x, $y, $x, $y, $look, $look);
    }

    /**
     * Takes a place that was set by hand and its look there as what is true.
     *
     * @param list<Patch|null>                  $look
     * @param array{float, float, float, float} $linear
     */
    public function set(float $x, float $y, array $look, array $linear): void
    {
        [$this->x, $this->y, $this->wasX, $this->wasY] = [$x, $y, $x, $y];
        [$this->first, $this->look] = [$look, $look];
        [$this->firstLinear, $this->linear] = [$linear, $linear];
        $this->renewed = false;
        $this->found = $look[0] !== null;
        $this->alike = 1.0;
    }
}
