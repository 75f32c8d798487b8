<?php

declare(strict_types=1);

namespace Cossel\Core\Render;

use Cossel\Core\Outline\AreaMatte;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Side;
use Cossel\Core\Recipe\Touch;

/**
 * An area on one frame: its matte and the touches that change something there.
 *
 * @internal
 */
final readonly class PlacedArea
{
    /**
     * @param non-empty-list<Touch> $touches
     * @param float                 $inside  strength of what it does to its inside
     * @param float                 $outside and to its surroundings
     */
    public function __construct(public AreaMatte $matte, public array $touches, public float $inside, public float $outside) {}

    public function strength(Side $side): float
    {
        return $side === Side::Inside ? $this->inside : $this->outside;
    }

    /** The pixels its touches can change. */
    public function reach(Rect $frame): Rect
    {
        foreach ($this->touches as $touch) {
            if ($touch->side === Side::Outside) {
                return $frame;
            }
        }

        return $this->matte->bounds();
    }
}
