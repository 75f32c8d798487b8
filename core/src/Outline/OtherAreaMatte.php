<?php

declare(strict_types=1);

namespace Cossel\Core\Outline;

use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Rect;

/** Another area's matte standing in as a shape. */
final readonly class OtherAreaMatte implements ShapeMatte
{
    public function __construct(private SharedMatte $matte, private float $opacity) {}

    public function bounds(): Rect
    {
        return $this->matte->bounds();
    }

    public function price(): float
    {
        return $this->matte->price();
    }

    public function matte(Rect $rect): Grey
    {
        $grey = $this->matte->matte($rect);
        if ($this->opacity !== 1.0) {
            foreach ($grey->v as $i => $v) {
                $grey->v[$i] = $v * $this->opacity;
            }
        }

        return $grey;
    }
}
