<?php

declare(strict_types=1);

namespace Cossel\Core\Picture;

/** Luma Y' = 0.2126 R' + 0.7152 G' + 0.0722 B' (ITU-R BT.709-6) of a picture, and changes of it. Kernel class. */
final class Luma
{
    /** Of R', G', B'; kernels that need them in their loops take them from here. */
    public const WEIGHTS = [0.2126, 0.7152, 0.0722];

    /** Of one colour. */
    public static function at(float $r, float $g, float $b): float
    {
        return self::WEIGHTS[0] * $r + self::WEIGHTS[1] * $g + self::WEIGHTS[2] * $b;
    }

    /** @param Rect $rect inside the planes' own */
    public static function of(Planes $planes, Rect $rect): Grey
    {
        return new Grey($rect, self::read($planes->r, $planes->g, $planes->b, $planes->rect, $rect));
    }

    /** Adds to all three channels alike, as strongly as the weight says. */
    public static function add(Planes $planes, Weight $weight, Grey $difference): void
    {
        self::shift($planes->r, $planes->g, $planes->b, $planes->rect, $difference->v, $difference->rect, $weight);
    }

    /**
     * @param list<float> $r
     * @param list<float> $g
     * @param list<float> $b
     *
     * @return list<float>
     */
    private static function read(array $r, array $g, array $b, Rect $from, Rect $rect): array
    {
        [$kr, $kg, $kb] = self::WEIGHTS;
        $out = array_fill(0, $rect->count(), 0.0);
        foreach ($rect->rowsIn($from) as $o => $i) {
            for ($end = $i + $rect->width; $i < $end; ++$i) {
                $out[$o++] = $kr * $r[$i] + $kg * $g[$i] + $kb * $b[$i];
            }
        }

        return $out;
    }

    /**
     * @param list<float> $r
     * @param list<float> $g
     * @param list<float> $b
     * @param list<float> $d
     */
    private static function shift(array &$r, array &$g, array &$b, Rect $into, array $d, Rect $from, Weight $weight): void
    {
        $at = $weight->rect();
        $w = $weight->matte->v;
        $offset = $weight->offset;
        $scale = $weight->scale;
        $start = ($at->y - $from->y) * $from->width + $at->x - $from->x;
        foreach ($at->rowsIn($into) as $j => $i) {
            for ($o = $start, $end = $i + $at->width; $i < $end; ++$i, ++$o, ++$j) {
                $k = ($offset + $scale * $w[$j]) * $d[$o];
                $r[$i] += $k;
                $g[$i] += $k;
                $b[$i] += $k;
            }
            $start += $from->width;
        }
    }
}
