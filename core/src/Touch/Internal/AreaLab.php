<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Colour\Transfer;
use Cossel\Core\Picture\AreaPicture;
use Cossel\Core\Picture\LabPlanes;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;

/** An area's Oklab, kept from when it was shown where every pixel of it was, so that it is not computed once more to act. */
final readonly class AreaLab
{
    private function __construct(public LabPlanes $shown, private ?LabPlanes $kept, private Transfer $transfer) {}

    public static function of(AreaPicture $picture, Transfer $transfer): self
    {
        $shown = LabPlanes::of($picture->planes, $picture->planes->rect, $transfer);

        return new self($shown, $picture->blocks->side === 1 ? $shown->at($picture->blocks->rect) : null, $transfer);
    }

    /** Over a rectangle in which it is about to act. */
    public function over(Planes $planes, Rect $rect): LabPlanes
    {
        return $this->kept?->window($rect) ?? LabPlanes::of($planes, $rect, $this->transfer);
    }
}
