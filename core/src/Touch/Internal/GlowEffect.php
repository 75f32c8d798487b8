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

/** Light over a threshold, spilt around. */
final readonly class GlowEffect implements Effect
{
    /** @param float $sigma pixels */
    public function __construct(private float $sigma, private float $intensity, private float $threshold, private Transfer $transfer) {}

    public function needs(Rect $rect): Rect
    {
        return $rect->grow(Gaussian::reach($this->sigma));
    }

    public function apply(Planes $planes, Weight $weight): void
    {
        $light = LightPlanes::of($planes, $this->needs($weight->rect())->intersect($planes->rect), $this->transfer);
        foreach (['r', 'g', 'b'] as $channel) {
            $spill = Gaussian::values(
                self::over($light->{$channel}, $this->threshold),
                $light->rect->width,
                $light->rect->height,
                $this->sigma,
            );
            $light->{$channel} = self::screen($light->{$channel}, $spill, $this->intensity);
        }
        $light->into($planes, $weight, $this->transfer);
    }

    /**
     * @param list<float> $v
     *
     * @return list<float>
     */
    private static function over(array $v, float $threshold): array
    {
        foreach ($v as $i => $x) {
            $v[$i] = $x > $threshold ? $x - $threshold : 0.0;
        }

        return $v;
    }

    /**
     * @param list<float> $v
     * @param list<float> $spill
     *
     * @return list<float>
     */
    private static function screen(array $v, array $spill, float $intensity): array
    {
        foreach ($v as $i => $x) {
            if ($x < 1.0) {
                $v[$i] = 1.0 - (1.0 - $x) * exp(-$intensity * $spill[$i]);
            }
        }

        return $v;
    }
}
