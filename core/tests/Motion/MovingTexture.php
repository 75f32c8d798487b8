<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Motion;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Motion\FrameSource;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;

/** A textured disc that moves as told over a background that stays; computed from a formula, so at any sub-pixel place. */
final class MovingTexture implements FrameSource
{
    /**
     * @param \Closure(int): Matrix $motion  of the disc, pixels, identity on frame 0
     * @param \Closure(int): float  $light   by which the whole picture is multiplied
     * @param list<int>             $covered frames on which something flat hides the disc
     */
    public function __construct(private readonly \Closure $motion, private readonly ?\Closure $light = null, private readonly array $covered = []) {}

    public function frame(): Rect
    {
        return Rect::of(0, 0, 240, 160);
    }

    public function luma(int $frame, Rect $rect): Grey
    {
        $light = $this->light === null ? 1.0 : ($this->light)($frame);
        $v = [];
        for ($y = $rect->y; $y < $rect->bottom(); ++$y) {
            for ($x = $rect->x; $x < $rect->right(); ++$x) {
                $v[] = $light * $this->place($frame, $x + 0.5, $y + 0.5);
            }
        }

        return new Grey($rect, $v);
    }

    /** What is to be seen at a place, in pixels. */
    public function place(int $frame, float $x, float $y): float
    {
        [$u, $w] = ($this->motion)($frame)->inverse()->apply($x, $y);
        if (($u - 120) ** 2 + ($w - 80) ** 2 >= 45 ** 2) {
            return 0.3 + 0.1 * sin($x * 0.31) * sin($y * 0.27);
        }

        return in_array($frame, $this->covered, true) ? 0.31 : 0.5 + 0.1 * sin($u * 0.41) * cos($w * 0.37) + 0.08 * sin($u * 0.17 + $w * 0.23) + 0.07 * cos(0.013 * $u * $w);
    }

    public function colour(int $frame, Rect $rect): Planes
    {
        $v = $this->luma($frame, $rect)->v;

        return new Planes($rect, $v, $v, $v);
    }
}
