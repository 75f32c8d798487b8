<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Picture\Luma;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Touch\Effect;

/** Channels through curves of their own, then what a curve adds to luma added to all three. */
final readonly class CurvesEffect implements Effect
{
    use Pointwise;

    private CurveEffect $channels;

    public function __construct(?Curve $red, ?Curve $green, ?Curve $blue, private ?Curve $luma)
    {
        $this->channels = new CurveEffect($red, $green, $blue);
    }

    public function apply(Planes $planes, Weight $weight): void
    {
        $this->channels->apply($planes, $weight);
        if ($this->luma === null) {
            return;
        }
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
                $this->luma,
                $this->luma->table,
                $this->luma->slopes,
            );
        }
    }

    /**
     * @param list<float> $r
     * @param list<float> $g
     * @param list<float> $b
     * @param list<float> $w
     * @param list<float> $t
     * @param list<float> $slopes
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
        Curve $curve,
        array $t,
        array $slopes,
    ): void {
        $last = count($t) - 1;
        [$kr, $kg, $kb] = Luma::WEIGHTS;
        for ($end = $i + $n; $i < $end; ++$i, ++$j) {
            $k = $offset + $scale * $w[$j];
            if ($k === 0.0) {
                continue;
            }
            $luma = $kr * $r[$i] + $kg * $g[$i] + $kb * $b[$i];
            $p = ($luma + 1.0) * 2048.0;
            $c = $p < 0.0 ? 0 : ($p > $last ? $last : (int) $p);
            $slope = $slopes[$c];
            $k *= ($slope === Curve::STEEP ? $curve->exact($luma) : $t[$c] + $slope * ($p - $c)) - $luma;
            $r[$i] += $k;
            $g[$i] += $k;
            $b[$i] += $k;
        }
    }
}
