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
    /** About twice the shorter over the longer side of how a round patch is seen, at least. */
    private const FACING = 0.3;

    public bool $found = true;
    public float $alike = 1.0;
    /** @var array{float, float, float, float} how the surface is turned and scaled there, as far as is known */
    public array $lies = [1.0, 0.0, 0.0, 1.0];
    /** @var array{float, float, float, float} and how it was when the present look was taken */
    public array $linear = [1.0, 0.0, 0.0, 1.0];
    public bool $renewed = false;
    /** @var array{float, float, float, float} and when its first look was taken */
    public array $firstLinear = [1.0, 0.0, 0.0, 1.0];
    /** Where it was on the frame before, if it was found there. */
    public float $wasX;
    public float $wasY;

    /**
     * @param float                $depth how far it stands out, and
     * @param array{float, float}  $slope how the surface rises there along x and y
     * @param list<Patch|null>     $first its look on the start frame or on the last that was set by hand, by level
     */
    private function __construct(
        public readonly float $fromX,
        public readonly float $fromY,
        public readonly float $depth,
        public readonly array $slope,
        public float $x,
        public float $y,
        public array $first,
        /** @var list<Patch|null> */
        public array $look,
        /** @var list<Patch|null> */
        private readonly array $start,
    ) {}

    /**
     * @param array{float, float} $slope
     * @param list<Patch|null>    $look
     */
    public static function at(float $x, float $y, float $depth, array $slope, array $look): self
    {
        return new self($x, $y, $depth, $slope, $x, $y, $look, $look, $look);
    }

    /**
     * One that was not seen, or not well, until a later frame.
     *
     * @param array{float, float} $from  where it would be on the start frame
     * @param array{float, float} $slope
     * @param list<Patch|null>    $look
     */
    public static function later(array $from, float $depth, array $slope, ReliefMotion $motion, array $look): self
    {
        $point = new self($from[0], $from[1], $depth, $slope, $from[0], $from[1], $look, $look, $look);
        $point->set($motion, $look);

        return $point;
    }

    /** Whether the surface there is seen from somewhere near enough to how its look was taken. */
    public function faces(): bool
    {
        [$a, $b, $c, $d] = $this->lies;

        return 2 * ($a * $d - $b * $c) > self::FACING * ($a * $a + $b * $b + $c * $c + $d * $d);
    }

    /** Back on the start frame. */
    public function begin(): void
    {
        $this->set(ReliefMotion::still(), $this->start);
        unset($this->wasX, $this->wasY);
    }

    /** @return array{float, float} where a motion takes it */
    public function under(ReliefMotion $motion): array
    {
        return $motion->apply($this->fromX, $this->fromY, $this->depth);
    }

    /** It is looked for where a motion takes it, shifted, or as far from where it was found last. */
    public function expect(ReliefMotion $motion, float $shiftX, float $shiftY, bool $afresh): void
    {
        if (!$this->found || $afresh) {
            [$this->x, $this->y] = $this->under($motion);
        }
        $this->x += $shiftX;
        $this->y += $shiftY;
        $this->lies = $motion->linear($this->slope);
        $this->found = true;
    }

    /**
     * Takes a place that was set by hand and its look there as what is true.
     *
     * @param list<Patch|null> $look
     */
    public function set(ReliefMotion $motion, array $look): void
    {
        [$this->x, $this->y] = $this->under($motion);
        [$this->wasX, $this->wasY] = [$this->x, $this->y];
        [$this->first, $this->look] = [$look, $look];
        $this->firstLinear = $this->linear = $motion->linear($this->slope);
        $this->renewed = false;
        $this->found = $look[0] !== null;
        $this->alike = 1.0;
    }
}
