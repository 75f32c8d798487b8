<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Touch\Effect;

/** All channels times the same. */
final readonly class GainEffect implements Effect
{
    use Pointwise;

    public function __construct(private float $gain) {}

    public function apply(Planes $planes, Weight $weight): void
    {
        $more = $this->gain - 1;
        foreach ($weight->rect()->rowsIn($planes->rect) as $j => $i) {
            self::row(
                $planes->r,
                $planes->g,
                $planes->b,
                $i,
                $weight->matte->v,
                $j,
                $weight->rect()->width,
                $more * $weight->offset,
                $more * $weight->scale,
            );
        }
    }

    /**
     * @param list<float> $r
     * @param list<float> $g
     * @param list<float> $b
     * @param list<float> $w
     */
    private static function row(array &$r, array &$g, array &$b, int $i, array $w, int $j, int $n, float $offset, float $scale): void
    {
        for ($end = $i + $n; $i < $end; ++$i, ++$j) {
            $k = $offset + $scale * $w[$j];
            $r[$i] += $r[$i] * $k;
            $g[$i] += $g[$i] * $k;
            $b[$i] += $b[$i] * $k;
        }
    }
}
