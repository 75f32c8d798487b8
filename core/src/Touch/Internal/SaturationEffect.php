<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Picture\Luma;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Touch\Effect;

/** Code values nearer to their luma, or further from it. */
final readonly class SaturationEffect implements Effect
{
    use Pointwise;

    public function __construct(private float $saturation) {}

    public function apply(Planes $planes, Weight $weight): void
    {
        foreach ($weight->rect()->rowsIn($planes->rect) as $j => $i) {
            self::row(
                $planes->r,
                $planes->g,
                $planes->b,
                $i,
                $weight->matte->v,
                $j,
                $weight->rect()->width,
                $weight->offset,
                $weight->scale,
                $this->saturation,
            );
        }
    }

    /**
     * @param list<float> $r
     * @param list<float> $g
     * @param list<float> $b
     * @param list<float> $w
     */
    private static function row(
        array &$r,
        array &$g,
        array &$b,
        int $i,
        array $w,
        int $j,
        int $n,
        float $offset,
        float $scale,
        float $saturation,
    ): void {
        [$kr, $kg, $kb] = Luma::WEIGHTS;
        $offset *= $saturation - 1.0;
        $scale *= $saturation - 1.0;
        for ($end = $i + $n; $i < $end; ++$i, ++$j) {
            $k = $offset + $scale * $w[$j];
            $red = $r[$i];
            $green = $g[$i];
            $blue = $b[$i];
            $luma = $kr * $red + $kg * $green + $kb * $blue;
            $r[$i] = $red + ($red - $luma) * $k;
            $g[$i] = $green + ($green - $luma) * $k;
            $b[$i] = $blue + ($blue - $luma) * $k;
        }
    }
}
