<?php

declare(strict_types=1);

namespace Cossel\Core\Render;

use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Touch\Sparing;

/**
 * A touch of base or finish.
 *
 * @internal
 */
final readonly class FrameStage implements Stage
{
    public function __construct(private Act $act, private Rect $frame) {}

    public function reach(): Rect
    {
        return $this->frame;
    }

    /** What leaves most of an untreated frame as it is and can tell so, or null. */
    public function sparing(): ?Sparing
    {
        return $this->act->sparing();
    }

    public function needs(Rect $rect): Rect
    {
        return $this->act->needs($rect)->intersect($this->frame);
    }

    public function id(): string
    {
        return $this->act->id;
    }

    public function changed(Stage $other, Rect $changed): Rect
    {
        return $other instanceof self && $other->act->as === $this->act->as ? $this->act->spread($changed, $this->frame) : $this->frame;
    }

    public function price(Rect $rect): float
    {
        return $rect->count() * $this->act->price;
    }

    public function apply(Planes $planes, Rect $rect): void
    {
        $this->act->apply($planes, Weight::everywhere($rect, $this->act->amount));
    }
}
