<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Picture\Luma;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Touch\Effect;

/** Each channel through a curve of its own, then saturation about luma. */
final readonly class CdlEffect implements Effect
{
    use Pointwise;

    public function __construct(private Curve $red, private Curve $green, private Curve $blue, private float $saturation) {}

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
                $this->red,
                $this->green,
                $this->blue,
                $this->red->table,
                $this->red->slopes,
                $this->green->table,
                $this->green->slopes,
                $this->blue->table,
                $this->blue->slopes,
            );
        }
    }

    /**
     * @param list<float> $r
     * @param list<float> $g
     * @param list<float> $b
     * @param list<float> $w
     * @param list<float> $redTable
     * @param list<float> $redSlopes
     * @param list<float> $greenTable
     * @param list<float> $greenSlopes
     * @param list<float> $blueTable
     * @param list<float> $blueSlopes
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
        Curve $red,
        Curve $green,
        Curve $blue,
        array $redTable,
        array $redSlopes,
        array $greenTable,
        array $greenSlopes,
        array $blueTable,
        array $blueSlopes,
    ): void {
        [$kr, $kg, $kb] = Luma::WEIGHTS;
        $last = count($redTable) - 1;
        for ($end = $i + $n; $i < $end; ++$i, ++$j) {
            $k = $offset + $scale * $w[$j];
            if ($k === 0.0) {
                continue;
            }
            $p = ($r[$i] + 1.0) * 2048.0;
            $c = $p < 0.0 ? 0 : ($p > $last ? $last : (int) $p);
            $slope = $redSlopes[$c];
            $x = $slope === Curve::STEEP ? $red->exact($r[$i]) : $redTable[$c] + $slope * ($p - $c);
            $p = ($g[$i] + 1.0) * 2048.0;
            $c = $p < 0.0 ? 0 : ($p > $last ? $last : (int) $p);
            $slope = $greenSlopes[$c];
            $y = $slope === Curve::STEEP ? $green->exact($g[$i]) : $greenTable[$c] + $slope * ($p - $c);
            $p = ($b[$i] + 1.0) * 2048.0;
            $c = $p < 0.0 ? 0 : ($p > $last ? $last : (int) $p);
            $slope = $blueSlopes[$c];
            $z = $slope === Curve::STEEP ? $blue->exact($b[$i]) : $blueTable[$c] + $slope * ($p - $c);
            $luma = (1.0 - $saturation) * ($kr * $x + $kg * $y + $kb * $z);
            $r[$i] += ($luma + $saturation * $x - $r[$i]) * $k;
            $g[$i] += ($luma + $saturation * $y - $g[$i]) * $k;
            $b[$i] += ($luma + $saturation * $z - $b[$i]) * $k;
        }
    }
}
