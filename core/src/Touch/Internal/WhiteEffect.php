<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Colour\Transfer;
use Cossel\Core\Picture\Luma;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Touch\Effect;

/** Linear light through a matrix, then saturation on code values. */
final readonly class WhiteEffect implements Effect
{
    use Pointwise;

    /** @param array<int, float> $matrix 3 x 3, row by row */
    public function __construct(private array $matrix, private float $saturation, private Transfer $transfer) {}

    public function apply(Planes $planes, Weight $weight): void
    {
        $at = $weight->rect();
        if ($this->transfer !== Transfer::Bt1886) {
            foreach ($at->rowsIn($planes->rect) as $j => $i) {
                self::rowBy(
                    $this->transfer,
                    $planes->r,
                    $planes->g,
                    $planes->b,
                    $i,
                    $weight->matte->v,
                    $j,
                    $at->width,
                    $weight->offset,
                    $weight->scale,
                    $this->saturation,
                    $this->matrix,
                );
            }

            return;
        }
        $decode = Curve::named('linear light of BT.1886', $this->transfer->linear(...), $this->transfer->code(...));
        foreach ($at->rowsIn($planes->rect) as $j => $i) {
            self::row(
                $planes->r,
                $planes->g,
                $planes->b,
                $i,
                $weight->matte->v,
                $j,
                $at->width,
                $weight->offset,
                $weight->scale,
                $this->saturation,
                $this->matrix,
                $decode,
                $decode->table,
                $decode->slopes,
            );
        }
    }

    /**
     * @param list<float>       $r
     * @param list<float>       $g
     * @param list<float>       $b
     * @param list<float>       $w
     * @param array<int, float> $m
     * @param list<float>       $t      linear light of code values
     * @param list<float>       $slopes
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
        array $m,
        Curve $curve,
        array $t,
        array $slopes,
    ): void {
        [$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8] = $m;
        $last = count($t) - 1;
        [$kr, $kg, $kb] = Luma::WEIGHTS;
        $inverse = 1 / 2.4;
        for ($end = $i + $n; $i < $end; ++$i, ++$j) {
            $k = $offset + $scale * $w[$j];
            if ($k === 0.0) {
                continue;
            }
            $p = ($r[$i] + 1.0) * 2048.0;
            $c = $p < 0.0 ? 0 : ($p > $last ? $last : (int) $p);
            $slope = $slopes[$c];
            $x = $slope === Curve::STEEP ? $curve->exact($r[$i]) : $t[$c] + $slope * ($p - $c);
            $p = ($g[$i] + 1.0) * 2048.0;
            $c = $p < 0.0 ? 0 : ($p > $last ? $last : (int) $p);
            $slope = $slopes[$c];
            $y = $slope === Curve::STEEP ? $curve->exact($g[$i]) : $t[$c] + $slope * ($p - $c);
            $p = ($b[$i] + 1.0) * 2048.0;
            $c = $p < 0.0 ? 0 : ($p > $last ? $last : (int) $p);
            $slope = $slopes[$c];
            $z = $slope === Curve::STEEP ? $curve->exact($b[$i]) : $t[$c] + $slope * ($p - $c);
            $red = $m0 * $x + $m1 * $y + $m2 * $z;
            $green = $m3 * $x + $m4 * $y + $m5 * $z;
            $blue = $m6 * $x + $m7 * $y + $m8 * $z;
            $red = $red < 0.0 ? -((-$red) ** $inverse) : $red ** $inverse;
            $green = $green < 0.0 ? -((-$green) ** $inverse) : $green ** $inverse;
            $blue = $blue < 0.0 ? -((-$blue) ** $inverse) : $blue ** $inverse;
            $luma = (1.0 - $saturation) * ($kr * $red + $kg * $green + $kb * $blue);
            $r[$i] += ($luma + $saturation * $red - $r[$i]) * $k;
            $g[$i] += ($luma + $saturation * $green - $g[$i]) * $k;
            $b[$i] += ($luma + $saturation * $blue - $b[$i]) * $k;
        }
    }

    /**
     * The same for transfers that are no pure power; slower, value by value.
     *
     * @param list<float>       $r
     * @param list<float>       $g
     * @param list<float>       $b
     * @param list<float>       $w
     * @param array<int, float> $m
     */
    private static function rowBy(
        Transfer $transfer,
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
        array $m,
    ): void {
        [$kr, $kg, $kb] = Luma::WEIGHTS;
        for ($end = $i + $n; $i < $end; ++$i, ++$j) {
            $k = $offset + $scale * $w[$j];
            if ($k === 0.0) {
                continue;
            }
            $x = $transfer->linear($r[$i]);
            $y = $transfer->linear($g[$i]);
            $z = $transfer->linear($b[$i]);
            $red = $transfer->code($m[0] * $x + $m[1] * $y + $m[2] * $z);
            $green = $transfer->code($m[3] * $x + $m[4] * $y + $m[5] * $z);
            $blue = $transfer->code($m[6] * $x + $m[7] * $y + $m[8] * $z);
            $luma = (1.0 - $saturation) * ($kr * $red + $kg * $green + $kb * $blue);
            $r[$i] += ($luma + $saturation * $red - $r[$i]) * $k;
            $g[$i] += ($luma + $saturation * $green - $g[$i]) * $k;
            $b[$i] += ($luma + $saturation * $blue - $b[$i]) * $k;
        }
    }
}
