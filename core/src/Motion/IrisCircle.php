<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Luma;
use Cossel\Core\Picture\Rect;

/** The round edge of an iris that is not followed yet. */
final class IrisCircle
{
    /** Shares of the rays to the white and to the pupil that must agree, together. */
    public const LEAST = 0.95;

    /** @param float $likeness shares of the rays to the white and to the pupil that agree, together: up to 2 */
    private function __construct(
        public readonly float $x,
        public readonly float $y,
        public readonly float $radius,
        public readonly float $likeness,
        /** How much lighter it is just outside than just inside, R'G'B'. */
        public readonly float $step,
    ) {}

    /** Between this one and another. */
    public function mixed(self $other, float $share): self
    {
        $x = $this->x + $share * ($other->x - $this->x);
        $y = $this->y + $share * ($other->y - $this->y);

        return new self($x, $y, $this->radius, $this->likeness, $this->step);
    }

    /** One whose edge was not looked for. */
    public static function told(float $x, float $y, float $radius): self
    {
        return new self($x, $y, $radius, 0.0, 0.0);
    }

    /**
     * The iris near a place, wherever between the lids it looks.
     *
     * @param float $reach furthest from the place its centre may be, pixels
     *
     * @return self|null in pixels; null where no round edge is seen
     */
    public static function near(FrameSource $source, int $frame, float $x, float $y, float $radius, float $reach): ?self
    {
        $far = 2.0 * $radius + $reach;
        $rect = Rect::around($x - $far, $y - $far, $x + $far, $y + $far)->intersect($source->frame());
        if ($radius < 4 || $rect->width < 2 * $radius || $rect->height < $radius) {
            return null;
        }

        return self::in(Luma::of($source->colour($frame, $rect), $rect), $x, $y, $radius, $reach);
    }

    /** The iris near a place of a picture, as {@see near}. */
    public static function in(Grey $luma, float $x, float $y, float $radius, float $reach): ?self
    {
        $best = RoundEdges::seen($luma, $x, $y, $radius, $reach, max(0.05, RoundEdges::ringStep($luma, $x, $y, $radius)));
        if ($best === null || $best[1] + $best[2] < self::LEAST) {
            return null;
        }
        [$x, $y, $radius] = $best[0];

        return new self($x, $y, $radius, $best[1] + $best[2], RoundEdges::ringStep($luma, $x, $y, $radius));
    }
}
