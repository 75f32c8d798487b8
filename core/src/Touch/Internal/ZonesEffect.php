<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Picture\Gaussian;
use Cossel\Core\Picture\Luma;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Touch\Effect;

/** A curve on each channel, then all of them times what luma says. */
final readonly class ZonesEffect implements Effect
{
    /**
     * @param Curve|null  $curve null leaves the channels as they are
     * @param list<float> $gains by luma, from 0 to 1 in steps of 1/1024
     * @param float       $calm  sigma in pixels of what luma is softened by before it is asked
     */
    public function __construct(private ?Curve $curve, private array $gains, private float $calm) {}

    public function needs(Rect $rect): Rect
    {
        return $rect->grow(Gaussian::reach($this->calm));
    }

    public function apply(Planes $planes, Weight $weight): void
    {
        $masks = $this->calm > 0.0 ? $this->calmed($planes, $weight->rect()) : [];
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
                $this->curve,
                $this->curve->table ?? [],
                $this->curve->slopes ?? [],
                $this->gains,
                $masks,
            );
        }
    }

    /** @return list<float> luma without its noise, through the curve */
    private function calmed(Planes $planes, Rect $at): array
    {
        $luma = Gaussian::blur(Luma::of($planes, $this->needs($at)->intersect($planes->rect)), $this->calm)->window($at)->v;
        if ($this->curve !== null) {
            foreach ($luma as $i => $v) {
                $luma[$i] = $this->curve->at($v);
            }
        }

        return $luma;
    }

    /**
     * @param list<float> $r
     * @param list<float> $g
     * @param list<float> $b
     * @param list<float> $w
     * @param list<float> $t      of the curve
     * @param list<float> $slopes
     * @param list<float> $z      gain by luma
     * @param list<float> $masks  luma to read the zones by, where it is not the pixel's own
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
        ?Curve $curve,
        array $t,
        array $slopes,
        array $z,
        array $masks,
    ): void {
        $calm = $masks !== [];
        $last = count($t) - 1;
        [$kr, $kg, $kb] = Luma::WEIGHTS;
        for ($end = $i + $n; $i < $end; ++$i, ++$j) {
            $k = $offset + $scale * $w[$j];
            if ($k === 0.0) {
                continue;
            }
            $red = $x = $r[$i];
            $green = $y = $g[$i];
            $blue = $v = $b[$i];
            if ($curve !== null) {
                $p = ($red + 1.0) * 2048.0;
                $c = $p < 0.0 ? 0 : ($p > $last ? $last : (int) $p);
                $slope = $slopes[$c];
                $x = $slope === Curve::STEEP ? $curve->exact($red) : $t[$c] + $slope * ($p - $c);
                $p = ($green + 1.0) * 2048.0;
                $c = $p < 0.0 ? 0 : ($p > $last ? $last : (int) $p);
                $slope = $slopes[$c];
                $y = $slope === Curve::STEEP ? $curve->exact($green) : $t[$c] + $slope * ($p - $c);
                $p = ($blue + 1.0) * 2048.0;
                $c = $p < 0.0 ? 0 : ($p > $last ? $last : (int) $p);
                $slope = $slopes[$c];
                $v = $slope === Curve::STEEP ? $curve->exact($blue) : $t[$c] + $slope * ($p - $c);
            }
            $p = ($calm ? $masks[$j] : $kr * $x + $kg * $y + $kb * $v) * 1024.0;
            if ($p <= 0.0) {
                $gain = $z[0];
            } elseif ($p >= 1024.0) {
                $gain = $z[1024];
            } else {
                $c = (int) $p;
                $gain = $z[$c] + ($z[$c + 1] - $z[$c]) * ($p - $c);
            }
            $r[$i] = $red + ($x * $gain - $red) * $k;
            $g[$i] = $green + ($y * $gain - $green) * $k;
            $b[$i] = $blue + ($v * $gain - $blue) * $k;
        }
    }
}
