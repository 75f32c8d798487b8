<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Picture\Weight;

/** A touch made ready for one frame. */
interface Effect
{
    /** Where the picture has to be right for it to act over a rectangle, as if the picture had no edges. */
    public function needs(Rect $rect): Rect;

    /**
     * Changes the planes in place: in + (touched - in) x weight. Where the weight is 0, nothing changes, bit for bit.
     * The planes reach beyond the weight's rectangle as far as it needs, but not beyond the picture.
     *
     * @param Planes $planes display-referred R'G'B', unclipped
     * @param Weight $weight over a rectangle inside the planes' own
     */
    public function apply(Planes $planes, Weight $weight): void;
}
