<?php

declare(strict_types=1);

namespace Cossel\Core\Outline;

use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Rect;

/** A matte that several shapes stand for; what was drawn last is kept. */
final class SharedMatte
{
    private ?Rect $bounds = null;
    private ?Grey $drawn = null;
    private ?float $price = null;

    public function __construct(private readonly AreaMatte $matte) {}

    public function bounds(): Rect
    {
        return $this->bounds ??= $this->matte->bounds();
    }

    public function matte(Rect $rect): Grey
    {
        if ($this->drawn === null || !$this->drawn->rect->equals($rect)) {
            $this->drawn = $this->matte->matte($rect);
        }

        return new Grey($rect, $this->drawn->v);
    }

    /** Nanoseconds to draw a pixel of it, the first time it is asked for; nothing after that. */
    public function price(): float
    {
        $price = $this->price ?? $this->matte->price();
        $this->price = 0.0;

        return $price;
    }
}
