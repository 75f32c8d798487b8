<?php

declare(strict_types=1);

namespace Cossel\Core\Render;

use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;

/**
 * One step from the untreated picture to the treated one: what it has to be given to be right over a rectangle, and
 * the doing of it.
 *
 * @internal
 */
interface Stage
{
    /** The pixels it can change. */
    public function reach(): Rect;

    /** Where the picture has to be right before it, for it to be right over this rectangle after it. */
    public function needs(Rect $rect): Rect;

    /** Which step it is, in another treatment of the same shot too. */
    public function id(): string;

    /**
     * Where what comes out may differ from what comes out of the same step in another treatment.
     *
     * @param self $other   of the same id
     * @param Rect $changed where what they are given may differ
     */
    public function changed(self $other, Rect $changed): Rect;

    /** Nanoseconds that it takes, about, to be right over a rectangle. */
    public function price(Rect $rect): float;

    /**
     * @param Planes $planes reaching over at least what it needs
     * @param Rect   $rect   where they are to be right afterwards
     */
    public function apply(Planes $planes, Rect $rect): void;
}
