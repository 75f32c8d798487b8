<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Picture\Luma;
use Cossel\Core\Picture\Rect;

/** The round edge of an iris that is not followed yet. */
final class IrisCircle
{
    /** Shares of the rays to the white and to the pupil that must agree, together. */
    public const LEAST = 0.95;

    /**
     * The iris near a place, wherever between the lids it looks.
     *
     * @param float $reach furthest from the place its centre may be, pixels
     *
     * @return array{float, float, float}|null centre and radius in pixels; null where no round edge is seen
     */
    public static function near(FrameSource $source, int $frame, float $x, float $y, float $radius, float $reach): ?array
    {
        $far = 2.0 * $radius + $reach;
        $rect = Rect::around($x - $far, $y - $far, $x + $far, $y + $far)->intersect($source->frame());
        if ($radius < 4 || $rect->width < 2 * $radius || $rect->height < $radius) {
            return null;
        }
        $luma = Luma::of($source->colour($frame, $rect), $rect);
        $best = RoundEdges::about($luma, $x, $y, $radius, $reach, max(0.05, RoundEdges::ringStep($luma, $x, $y, $radius)));

        return $best === null || $best[1] + $best[2] < self::LEAST ? null : array_slice($best[0], 0, 3);
    }
}
