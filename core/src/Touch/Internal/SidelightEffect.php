<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Colour\Transfer;
use Cossel\Core\Picture\LightPlanes;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Touch\Effect;

/** Linear light times what the place along a direction says. */
final readonly class SidelightEffect implements Effect
{
    use Pointwise;

    /**
     * @param list<float>                $gains by t in steps of 1/256
     * @param array{float, float, float} $along t by pixels to the right, by pixels down, and at the picture's corner
     */
    public function __construct(private array $gains, private array $along, private Transfer $transfer) {}

    public function apply(Planes $planes, Weight $weight): void
    {
        [$ux, $uy, $u0] = $this->along;
        $at = $weight->rect();
        $light = LightPlanes::of($planes, $at, $this->transfer);
        for ($y = 0; $y < $at->height; ++$y) {
            self::row(
                $light->r,
                $light->g,
                $light->b,
                $y * $at->width,
                $at->width,
                $ux,
                $u0 + $ux * ($at->x + 0.5) + $uy * ($at->y + $y + 0.5),
                $this->gains,
            );
        }
        $light->into($planes, $weight, $this->transfer);
    }

    /**
     * @param list<float> $r
     * @param list<float> $g
     * @param list<float> $b
     * @param list<float> $gains by t in steps of 1/256
     */
    private static function row(array &$r, array &$g, array &$b, int $i, int $n, float $step, float $t, array $gains): void
    {
        for ($end = $i + $n; $i < $end; ++$i, $t += $step) {
            $p = $t * 256.0;
            $p = $p < 0.0 ? 0.0 : ($p > 255.999 ? 255.999 : $p);
            $c = (int) $p;
            $gain = $gains[$c] + ($gains[$c + 1] - $gains[$c]) * ($p - $c);
            $r[$i] *= $gain;
            $g[$i] *= $gain;
            $b[$i] *= $gain;
        }
    }
}
