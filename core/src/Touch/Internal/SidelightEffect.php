<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Colour\Transfer;
use Cossel\Core\Picture\LightPlanes;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Touch\Effect;

/** Linear light, or code values, times what the place along a direction says. */
final readonly class SidelightEffect implements Effect
{
    use Pointwise;

    /**
     * @param list<float>   $gains    by t in steps of 1/256
     * @param Fall          $fall     how far along it each pixel is
     * @param Transfer|null $transfer null where the gains are of code values
     */
    public function __construct(private array $gains, private Fall $fall, private ?Transfer $transfer) {}

    public function apply(Planes $planes, Weight $weight): void
    {
        $at = $weight->rect();
        $light = $this->transfer === null ? null : LightPlanes::of($planes, $at, $this->transfer);
        $y = $at->y;
        foreach ($at->rowsIn($planes->rect) as $j => $i) {
            foreach ($this->fall->runs($at->x, $y++, $at->width) as [$n, $t, $step]) {
                if ($light === null) {
                    self::codes(
                        $planes->r,
                        $planes->g,
                        $planes->b,
                        $i,
                        $weight->matte->v,
                        $j,
                        $n,
                        $weight->offset,
                        $weight->scale,
                        $step,
                        $t,
                        $this->gains,
                    );
                } else {
                    self::row($light->r, $light->g, $light->b, $j, $n, $step, $t, $this->gains);
                }
                $i += $n;
                $j += $n;
            }
        }
        if ($light !== null) {
            $light->into($planes, $weight, $this->transfer);
        }
    }

    /**
     * @param list<float> $r
     * @param list<float> $g
     * @param list<float> $b
     * @param list<float> $w
     * @param list<float> $gains by t in steps of 1/256
     */
    private static function codes(
        array &$r,
        array &$g,
        array &$b,
        int $i,
        array $w,
        int $j,
        int $n,
        float $offset,
        float $scale,
        float $step,
        float $t,
        array $gains,
    ): void {
        for ($end = $i + $n; $i < $end; ++$i, ++$j, $t += $step) {
            $p = $t * 256.0;
            $p = $p < 0.0 ? 0.0 : ($p > 255.999 ? 255.999 : $p);
            $c = (int) $p;
            $more = ($gains[$c] + ($gains[$c + 1] - $gains[$c]) * ($p - $c) - 1.0) * ($offset + $scale * $w[$j]);
            $r[$i] += $r[$i] * $more;
            $g[$i] += $g[$i] * $more;
            $b[$i] += $b[$i] * $more;
        }
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
