<?php

declare(strict_types=1);

namespace App\Pictures;

use Cossel\Core\Picture\Rect;

/** An encoded picture and which part of which whole it shows; of nothing at all it has no bytes. */
final readonly class Picture
{
    /** @param bool $full sent instead of a smaller one that was asked for */
    public function __construct(public string $jpeg, public Rect $rect, public Rect $whole, public bool $full = false) {}

    /** The rectangle, then the size of the whole, in pixels. */
    public function place(): string
    {
        return implode(' ', [$this->rect->x, $this->rect->y, $this->rect->width, $this->rect->height, $this->whole->width, $this->whole->height]);
    }
}
