<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Colour\Transfer;
use Cossel\Core\Geometry\Extent;
use Cossel\Core\Geometry\TurnedSurface;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\Rect;

/** Where and when a touch acts: what a kind may know besides the pixels and its settings. */
final readonly class Site
{
    /**
     * @param int         $number    of the frame in its footage
     * @param Frame       $untreated the frame as it came
     * @param Extent|null $extent    the area's place; null on the whole frame
     * @param Rect|null   $bounds    where the area's matte may be other than 0; null on the whole frame
     * @param TurnedSurface|null $surface  where the surface is that the area lies on; null where it has no relief
     */
    public function __construct(
        public int $number,
        public Frame $untreated,
        public Assets $assets = new NoAssets(),
        public ?Extent $extent = null,
        public ?Rect $bounds = null,
        public ?TurnedSurface $surface = null,
    ) {}

    public function transfer(): Transfer
    {
        return $this->untreated->format->transfer;
    }

    /** Pixels in a picture height. */
    public function rows(): int
    {
        return $this->untreated->format->height;
    }

    /** The area's place; only for kinds that act in areas. */
    public function extent(): Extent
    {
        return $this->extent ?? throw new \LogicException('There is no area here.');
    }

    /** Where the area's matte may be other than 0; only for kinds that act in areas. */
    public function bounds(): Rect
    {
        return $this->bounds ?? throw new \LogicException('There is no area here.');
    }
}
