<?php

declare(strict_types=1);

namespace Cossel\Core\Propose;

use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Rect;

/**
 * Finds the other one of two eyes: the place where the picture is most like the piece round the first, by the normalised
 * correlation of luma, searched over the picture's width and a band of rows in coarse steps, then in single ones. The piece
 * is close round the iris and not mirrored: two eyes look the same way and reflect the same lights.
 */
final class OtherEye
{
    /** Half the piece compared, in radii of the iris. */
    private const ACROSS = 1.4;
    private const ALONG = 1.1;
    /** How far off the first one's row it may be, in radii. */
    private const TILT = 3.5;
    /** Two eyes are about eleven radii apart, seen from in front. */
    private const APART = 6.5;
    /** What passes for an eye. */
    private const LIKE = 0.6;
    /** Radius the picture is looked at with, in pixels: finer detail differs between two eyes. */
    private const FINE = 8.0;

    /**
     * @param Grey  $luma   of the whole picture
     * @param float $x      middle and radius of the first, in pixels
     *
     * @return array{float, float}|null the middle of the other one in pixels; null where nothing is like it
     */
    public static function of(Grey $luma, float $x, float $y, float $radius): ?array
    {
        $shrink = 1;
        while ($radius / $shrink > 2 * self::FINE) {
            $luma = $luma->halved();
            $shrink *= 2;
        }
        [$x, $y, $radius] = [$x / $shrink, $y / $shrink, $radius / $shrink];
        $across = (int) ceil(self::ACROSS * $radius);
        $along = (int) ceil(self::ALONG * $radius);
        $first = self::piece($luma, (int) $x, (int) $y, $across, $along);
        if ($first === null) {
            return null;
        }
        $best = [self::LIKE, null];
        $step = max(1, (int) ($radius / 4));
        foreach ([[$step, 0, $luma->rect->width, self::TILT * $radius], [1, null, 2 * $step, 2 * $step]] as [$by, $from, $width, $tilt]) {
            $centre = $from === null ? $best[1] : [$luma->rect->width / 2, $y];
            if ($centre === null) {
                return null;
            }
            $half = $from === null ? $width : $width / 2;
            for ($py = (int) ($centre[1] - $tilt); $py <= $centre[1] + $tilt; $py += $by) {
                for ($px = (int) ($centre[0] - $half); $px <= $centre[0] + $half; $px += $by) {
                    if (abs($px - $x) < self::APART * $radius) {
                        continue;
                    }
                    $piece = self::piece($luma, $px, $py, $across, $along);
                    $like = $piece === null ? -1.0 : self::correlation($first, $piece);
                    if ($like > $best[0]) {
                        $best = [$like, [$px, $py]];
                    }
                }
            }
        }

        return $best[1] === null ? null : [($best[1][0] + 0.5) * $shrink, ($best[1][1] + 0.5) * $shrink];
    }

    /** @return list<float>|null the piece of the picture round a place; null where most of it lies outside */
    private static function piece(Grey $luma, int $cx, int $cy, int $across, int $along): ?array
    {
        $rect = Rect::edges($cx - $across, $cy - $along, $cx + $across + 1, $cy + $along + 1);
        if ($rect->intersect($luma->rect)->count() < 0.6 * $rect->count()) {
            return null;
        }
        $piece = [];
        for ($y = $rect->y; $y < $rect->bottom(); ++$y) {
            $row = max(0, min($luma->rect->height - 1, $y)) * $luma->rect->width;
            for ($x = $rect->x; $x < $rect->right(); ++$x) {
                $piece[] = $luma->v[$row + max(0, min($luma->rect->width - 1, $x))];
            }
        }

        return $piece;
    }

    /**
     * @param list<float> $a
     * @param list<float> $b
     */
    private static function correlation(array $a, array $b): float
    {
        $n = count($a);
        $ma = array_sum($a) / $n;
        $mb = array_sum($b) / $n;
        $ab = $aa = $bb = 0.0;
        foreach ($a as $i => $v) {
            $v -= $ma;
            $w = $b[$i] - $mb;
            $ab += $v * $w;
            $aa += $v * $v;
            $bb += $w * $w;
        }

        return $aa > 0.0 && $bb > 0.0 ? $ab / sqrt($aa * $bb) : 0.0;
    }
}
