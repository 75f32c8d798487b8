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
    /** Where it was on the frame before, if it was found there. */
    public float $wasX;
    public float $wasY;

    /** @param list<Patch|null> $first its look on the start frame, by level */
    private function __construct(
        public readonly float $fromX,
        public readonly float $fromY,
        public float $x,
        public float $y,
        public readonly array $first,
        /** @var list<Patch|null> */
        public array $look,
    ) {}

    /** @param list<Patch|null> $look */
    public static function at(float $x, float $y, array $look): self
    {
        return new self($x, $y, $x, $y, $look, $look);
    }
}
