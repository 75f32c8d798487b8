<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Colour\Transfer;
use Cossel\Core\Picture\Gaussian;
use Cossel\Core\Picture\LightPlanes;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Touch\Effect;

/** Linear light through a Gaussian. */
final readonly class BlurEffect implements Effect
{
    /** @param float $sigma pixels */
    public function __construct(private float $sigma, private Transfer $transfer) {}

    public function needs(Rect $rect): Rect
    {
        return $rect->grow(Gaussian::reach($this->sigma));
    }

    public function apply(Planes $planes, Weight $weight): void
    {
        $light = LightPlanes::of($planes, $this->needs($weight->rect())->intersect($planes->rect), $this->transfer);
        foreach (['r', 'g', 'b'] as $channel) {
            $light->{$channel} = Gaussian::values($light->{$channel}, $light->rect->width, $light->rect->height, $this->sigma);
        }
        $light->into($planes, $weight, $this->transfer);
    }
}
