<?php

declare(strict_types=1);

namespace Cossel\Core\Judge;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Outline\AreaMatte;
use Cossel\Core\Outline\Poses;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Area;

/**
 * A small crop of an area, held still along its motion: the same piece of the outline's own frame, looked up where the
 * motion has taken it. If the motion is right, only the thing itself changes from crop to crop.
 */
final readonly class Witness
{
    /** Room round the outline, as a share of its size. */
    private const ROOM = 0.35;

    private function __construct(private Matrix $toFrame, private int $width, private int $height) {}

    /**
     * @param Matrix $motion of the area, in picture heights
     * @param Rect   $frame  the picture the crop is taken from, in pixels
     * @param int    $width  of the crop in pixels
     */
    public static function of(Area $area, Poses $poses, Matrix $motion, Rect $frame, int $width, int $height): self
    {
        // Measured on the outline's own frame, at a size that is fine enough for the smallest area.
        $unit = 2000;
        $bounds = AreaMatte::on(
            $area,
            $area->outline->at,
            $poses,
            Rect::of(0, 0, (int) ($unit * $frame->width / $frame->height), $unit),
        )->bounds();
        $aspect = $width / $height;
        [$cx, $cy, $tall] = $bounds->isEmpty()
            ? [$frame->width / $frame->height / 2, 0.5, 1.0]
            : [
                ($bounds->x + $bounds->width / 2) / $unit,
                ($bounds->y + $bounds->height / 2) / $unit,
                (1 + self::ROOM) * max($bounds->height, $bounds->width / $aspect) / $unit,
            ];
        $scale = $tall / $height;
        $crop = Matrix::of([$scale, 0, $cx - $scale * $width / 2, 0, $scale, $cy - $scale * $height / 2, 0, 0, 1]);

        return new self(Matrix::of([$frame->height, 0, 0, 0, $frame->height, 0, 0, 0, 1])->times($motion)->times($crop), $width, $height);
    }

    /** How many of these pixels of the picture lie across one of the crop, in its middle. */
    public function pixels(): float
    {
        return $this->toFrame->affineAt($this->width / 2, $this->height / 2)->scale();
    }

    /** The part of the frame the crop is made from. */
    public function needs(Rect $frame): Rect
    {
        $xs = $ys = [];
        foreach ([[0, 0], [$this->width, 0], [0, $this->height], [$this->width, $this->height]] as [$x, $y]) {
            [$xs[], $ys[]] = $this->toFrame->apply($x, $y);
        }

        return Rect::around(min($xs) - 1, min($ys) - 1, max($xs) + 1, max($ys) + 1)->intersect($frame);
    }

    /** @param Planes $planes the frame over at least what the crop needs; beyond the frame the crop is black */
    public function crop(Planes $planes): Planes
    {
        return $planes->through($this->toFrame, Rect::of(0, 0, $this->width, $this->height), $planes->rect, 0.0);
    }
}
