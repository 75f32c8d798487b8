<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;

/** Luma Y' = 0.2126 R' + 0.7152 G' + 0.0722 B' (ITU-R BT.709-6) of a picture, and changes of it. Kernel class. */
final class Luma
{
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
        $out = array_fill(0, $rect->count(), 0.0);
        $o = 0;
        for ($y = $rect->y, $bottom = $rect->bottom(); $y < $bottom; ++$y) {
            for ($i = ($y - $from->y) * $from->width + $rect->x - $from->x, $end = $i + $rect->width; $i < $end; ++$i) {
                $out[$o++] = 0.2126 * $r[$i] + 0.7152 * $g[$i] + 0.0722 * $b[$i];
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
        $at = $weight->matte->rect;
        $w = $weight->matte->v;
        $offset = $weight->offset;
        $scale = $weight->scale;
        $j = 0;
        for ($y = $at->y, $bottom = $at->bottom(); $y < $bottom; ++$y) {
            $o = ($y - $from->y) * $from->width + $at->x - $from->x;
            for ($i = ($y - $into->y) * $into->width + $at->x - $into->x, $end = $i + $at->width; $i < $end; ++$i, ++$o, ++$j) {
                $k = ($offset + $scale * $w[$j]) * $d[$o];
                $r[$i] += $k;
                $g[$i] += $k;
                $b[$i] += $k;
            }
        }
    }
}
