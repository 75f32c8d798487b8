<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Colour\Cube;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Touch\Effect;

/** Code values through a table of one or three dimensions. */
final readonly class LutEffect implements Effect
{
    use Pointwise;

    public function __construct(private Cube $cube) {}

    public function apply(Planes $planes, Weight $weight): void
    {
        foreach ($weight->rect()->rowsIn($planes->rect) as $j => $i) {
            if ($this->cube->isCube) {
                self::cubic(
                    $planes->r,
                    $planes->g,
                    $planes->b,
                    $i,
                    $weight->matte->v,
                    $j,
                    $weight->rect()->width,
                    $weight->offset,
                    $weight->scale,
                    $this->cube,
                    $this->cube->table,
                );
            } else {
                self::linear(
                    $planes->r,
                    $planes->g,
                    $planes->b,
                    $i,
                    $weight->matte->v,
                    $j,
                    $weight->rect()->width,
                    $weight->offset,
                    $weight->scale,
                    $this->cube,
                    $this->cube->table,
                );
            }
        }
    }

    /**
     * @param list<float> $r
     * @param list<float> $g
     * @param list<float> $b
     * @param list<float> $w
     * @param list<float> $t
     */
    private static function linear(
        array &$r,
        array &$g,
        array &$b,
        int $i,
        array $w,
        int $j,
        int $n,
        float $offset,
        float $scale,
        Cube $cube,
        array $t,
    ): void {
        $last = $cube->size - 1;
        [$r0, $g0, $b0] = $cube->least;
        [$rs, $gs, $bs] = array_map(static fn(float $least, float $most): float => $last / ($most - $least), $cube->least, $cube->most);
        for ($end = $i + $n; $i < $end; ++$i, ++$j) {
            $k = $offset + $scale * $w[$j];
            if ($k === 0.0) {
                continue;
            }
            $p = ($r[$i] - $r0) * $rs;
            $p = $p < 0.0 ? 0.0 : ($p > $last ? (float) $last : $p);
            $c = $p >= $last ? $last - 1 : (int) $p;
            $v = $t[3 * $c];
            $r[$i] += ($v + ($t[3 * $c + 3] - $v) * ($p - $c) - $r[$i]) * $k;
            $p = ($g[$i] - $g0) * $gs;
            $p = $p < 0.0 ? 0.0 : ($p > $last ? (float) $last : $p);
            $c = $p >= $last ? $last - 1 : (int) $p;
            $v = $t[3 * $c + 1];
            $g[$i] += ($v + ($t[3 * $c + 4] - $v) * ($p - $c) - $g[$i]) * $k;
            $p = ($b[$i] - $b0) * $bs;
            $p = $p < 0.0 ? 0.0 : ($p > $last ? (float) $last : $p);
            $c = $p >= $last ? $last - 1 : (int) $p;
            $v = $t[3 * $c + 2];
            $b[$i] += ($v + ($t[3 * $c + 5] - $v) * ($p - $c) - $b[$i]) * $k;
        }
    }

    /**
     * @param list<float> $r
     * @param list<float> $g
     * @param list<float> $b
     * @param list<float> $w
     * @param list<float> $t
     */
    private static function cubic(
        array &$r,
        array &$g,
        array &$b,
        int $i,
        array $w,
        int $j,
        int $n,
        float $offset,
        float $scale,
        Cube $cube,
        array $t,
    ): void {
        $last = $cube->size - 1;
        [$r0, $g0, $b0] = $cube->least;
        [$rs, $gs, $bs] = array_map(static fn(float $least, float $most): float => $last / ($most - $least), $cube->least, $cube->most);
        $sr = 3;
        $sg = 3 * $cube->size;
        $sb = 3 * $cube->size * $cube->size;
        $whole = $sr + $sg + $sb;
        for ($end = $i + $n; $i < $end; ++$i, ++$j) {
            $k = $offset + $scale * $w[$j];
            if ($k === 0.0) {
                continue;
            }
            $x = ($r[$i] - $r0) * $rs;
            $x = $x < 0.0 ? 0.0 : ($x > $last ? (float) $last : $x);
            $cx = $x >= $last ? $last - 1 : (int) $x;
            $x -= $cx;
            $y = ($g[$i] - $g0) * $gs;
            $y = $y < 0.0 ? 0.0 : ($y > $last ? (float) $last : $y);
            $cy = $y >= $last ? $last - 1 : (int) $y;
            $y -= $cy;
            $z = ($b[$i] - $b0) * $bs;
            $z = $z < 0.0 ? 0.0 : ($z > $last ? (float) $last : $z);
            $cz = $z >= $last ? $last - 1 : (int) $z;
            $z -= $cz;
            $o = $cx * $sr + $cy * $sg + $cz * $sb;
            // Of the six tetrahedra round the cell's diagonal, the one in which the largest fraction comes first.
            if ($x >= $y) {
                if ($y >= $z) {
                    [$p, $q, $one, $two, $three] = [$o + $sr, $o + $sr + $sg, $x, $y, $z];
                } elseif ($x >= $z) {
                    [$p, $q, $one, $two, $three] = [$o + $sr, $o + $sr + $sb, $x, $z, $y];
                } else {
                    [$p, $q, $one, $two, $three] = [$o + $sb, $o + $sb + $sr, $z, $x, $y];
                }
            } elseif ($z >= $y) {
                [$p, $q, $one, $two, $three] = [$o + $sb, $o + $sb + $sg, $z, $y, $x];
            } elseif ($z >= $x) {
                [$p, $q, $one, $two, $three] = [$o + $sg, $o + $sg + $sb, $y, $z, $x];
            } else {
                [$p, $q, $one, $two, $three] = [$o + $sg, $o + $sg + $sr, $y, $x, $z];
            }
            $e = $o + $whole;
            $f = 1.0 - $one;
            $one -= $two;
            $two -= $three;
            $r[$i] += ($t[$o] * $f + $t[$p] * $one + $t[$q] * $two + $t[$e] * $three - $r[$i]) * $k;
            $g[$i] += ($t[$o + 1] * $f + $t[$p + 1] * $one + $t[$q + 1] * $two + $t[$e + 1] * $three - $g[$i]) * $k;
            $b[$i] += ($t[$o + 2] * $f + $t[$p + 2] * $one + $t[$q + 2] * $two + $t[$e + 2] * $three - $b[$i]) * $k;
        }
    }
}
