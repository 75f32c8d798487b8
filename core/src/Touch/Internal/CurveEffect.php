<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Touch\Effect;

/** Each channel through a curve of its own. */
final readonly class CurveEffect implements Effect
{
    use Pointwise;

    /** Channels without a curve stay as they are. */
    public function __construct(private ?Curve $red, private ?Curve $green, private ?Curve $blue) {}

    public function apply(Planes $planes, Weight $weight): void
    {
        [$w, $offset, $scale, $n] = [$weight->matte->v, $weight->offset, $weight->scale, $weight->rect()->width];
        $all = $this->red !== null && $this->red === $this->green && $this->red === $this->blue ? $this->red : null;
        foreach ($weight->rect()->rowsIn($planes->rect) as $j => $i) {
            if ($all !== null) {
                self::grey($planes->r, $planes->g, $planes->b, $i, $w, $j, $n, $offset, $scale, $all, $all->table, $all->slopes);
                continue;
            }
            foreach (['r' => $this->red, 'g' => $this->green, 'b' => $this->blue] as $channel => $curve) {
                if ($curve !== null) {
                    self::row($planes->{$channel}, $i, $w, $j, $n, $offset, $scale, $curve, $curve->table, $curve->slopes);
                }
            }
        }
    }

    /**
     * All three through one curve.
     *
     * @param list<float> $r
     * @param list<float> $g
     * @param list<float> $b
     * @param list<float> $w
     * @param list<float> $table
     * @param list<float> $slopes
     */
    private static function grey(
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
        array $table,
        array $slopes,
    ): void {
        $last = count($table) - 1;
        for ($end = $i + $n; $i < $end; ++$i, ++$j) {
            $k = $offset + $scale * $w[$j];
            if ($k === 0.0) {
                continue;
            }
            $x = $r[$i];
            $p = ($x + 1.0) * 2048.0;
            $c = $p < 0.0 ? 0 : ($p > $last ? $last : (int) $p);
            $slope = $slopes[$c];
            $r[$i] = $x + (($slope === Curve::STEEP ? $curve->exact($x) : $table[$c] + $slope * ($p - $c)) - $x) * $k;
            $x = $g[$i];
            $p = ($x + 1.0) * 2048.0;
            $c = $p < 0.0 ? 0 : ($p > $last ? $last : (int) $p);
            $slope = $slopes[$c];
            $g[$i] = $x + (($slope === Curve::STEEP ? $curve->exact($x) : $table[$c] + $slope * ($p - $c)) - $x) * $k;
            $x = $b[$i];
            $p = ($x + 1.0) * 2048.0;
            $c = $p < 0.0 ? 0 : ($p > $last ? $last : (int) $p);
            $slope = $slopes[$c];
            $b[$i] = $x + (($slope === Curve::STEEP ? $curve->exact($x) : $table[$c] + $slope * ($p - $c)) - $x) * $k;
        }
    }

    /**
     * @param list<float> $v
     * @param list<float> $w
     * @param list<float> $table
     * @param list<float> $slopes
     */
    private static function row(
        array &$v,
        int $i,
        array $w,
        int $j,
        int $n,
        float $offset,
        float $scale,
        Curve $curve,
        array $table,
        array $slopes,
    ): void {
        $last = count($table) - 1;
        for ($end = $i + $n; $i < $end; ++$i, ++$j) {
            $k = $offset + $scale * $w[$j];
            if ($k === 0.0) {
                continue;
            }
            $x = $v[$i];
            $p = ($x + 1.0) * 2048.0;
            $c = $p < 0.0 ? 0 : ($p > $last ? $last : (int) $p);
            $slope = $slopes[$c];
            $v[$i] = $x + (($slope === Curve::STEEP ? $curve->exact($x) : $table[$c] + $slope * ($p - $c)) - $x) * $k;
        }
    }
}
