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
        $w = $weight->matte->v;
        foreach ($weight->rect()->rowsIn($planes->rect) as $j => $i) {
            if ($this->red !== null) {
                self::row(
                    $planes->r,
                    $i,
                    $w,
                    $j,
                    $weight->rect()->width,
                    $weight->offset,
                    $weight->scale,
                    $this->red,
                    $this->red->table,
                    $this->red->slopes,
                );
            }
            if ($this->green !== null) {
                self::row(
                    $planes->g,
                    $i,
                    $w,
                    $j,
                    $weight->rect()->width,
                    $weight->offset,
                    $weight->scale,
                    $this->green,
                    $this->green->table,
                    $this->green->slopes,
                );
            }
            if ($this->blue !== null) {
                self::row(
                    $planes->b,
                    $i,
                    $w,
                    $j,
                    $weight->rect()->width,
                    $weight->offset,
                    $weight->scale,
                    $this->blue,
                    $this->blue->table,
                    $this->blue->slopes,
                );
            }
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
