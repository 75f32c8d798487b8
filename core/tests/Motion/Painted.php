<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Motion;

use Cossel\Core\Motion\FrameSource;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;

/** Frames painted by a formula: the colour of each place, sampled four times a pixel so that edges are soft. */
final class Painted implements FrameSource
{
    /** @param \Closure(int, float, float): array{float, float, float} $colour R'G'B' of a place, in pixels, on a frame */
    public function __construct(private readonly \Closure $colour, private readonly int $width = 240, private readonly int $height = 160) {}

    public function frame(): Rect
    {
        return Rect::of(0, 0, $this->width, $this->height);
    }

    public function luma(int $frame, Rect $rect): Grey
    {
        $planes = $this->colour($frame, $rect);

        return new Grey($rect, array_map(static fn(float $r, float $g, float $b): float => 0.2126 * $r + 0.7152 * $g + 0.0722 * $b, $planes->r, $planes->g, $planes->b));
    }

    public function colour(int $frame, Rect $rect): Planes
    {
        $planes = Planes::filled($rect, 0.0, 0.0, 0.0);
        $i = 0;
        for ($y = $rect->y; $y < $rect->bottom(); ++$y) {
            for ($x = $rect->x; $x < $rect->right(); ++$x, ++$i) {
                foreach ([0.25, 0.75] as $dy) {
                    foreach ([0.25, 0.75] as $dx) {
                        [$r, $g, $b] = ($this->colour)($frame, $x + $dx, $y + $dy);
                        $planes->r[$i] += $r / 4;
                        $planes->g[$i] += $g / 4;
                        $planes->b[$i] += $b / 4;
                    }
                }
            }
        }

        return $planes;
    }
}
