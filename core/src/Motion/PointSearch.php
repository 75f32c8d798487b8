<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Picture\Grey;

/**
 * Finds followed points again by their looks (see {@see LucasKanade}), coarse to fine, and checks each by going back
 * to the frame before. Kernel class.
 */
final class PointSearch
{
    /** Half the patch size on each level, finest first. */
    private const HALF = [6, 5, 4];
    public const LEVELS = 3;
    /** Likeness under which a point counts as not found, and under which its look is renewed. */
    private const ALIKE = 0.62;
    public const RENEW = 0.86;
    /** Furthest a point may miss its old place when followed back, pixels. */
    private const BACK = 1.0;
    private const FLAT = 0.05;

    /** @return list<array{t: list<float>, gx: list<float>, gy: list<float>, xx: float, xy: float, yy: float, norm: float}|null> */
    public static function look(Pyramid $pyramid, float $x, float $y): array
    {
        $look = [];
        foreach ($pyramid->levels as $level => $grey) {
            $look[] = LucasKanade::patch($grey, $x / (1 << $level), $y / (1 << $level), self::HALF[$level]);
        }

        return $look;
    }

    /**
     * Improves each point's expected place on the coarse levels; where a point's own answer is doubtful, the
     * median shift of all is taken.
     *
     * @param list<FollowedPoint> $points
     */
    public static function coarse(array $points, Pyramid $pyramid): void
    {
        for ($level = self::LEVELS - 1; $level >= 1; --$level) {
            $scale = 1 << $level;
            $grey = $pyramid->levels[$level];
            $shiftX = $shiftY = $doubtful = [];
            foreach ($points as $i => $point) {
                $patch = $point->look[$level];
                $hit = $patch === null ? null : LucasKanade::find(
                    $patch,
                    self::HALF[$level],
                    $grey,
                    $point->x / $scale,
                    $point->y / $scale,
                    self::since($point->linear, $point->lies),
                    4,
                );
                if ($hit === null || $hit[2] < 0.5) {
                    $doubtful[] = $i;
                    continue;
                }
                $shiftX[] = $hit[0] * $scale - $point->x;
                $shiftY[] = $hit[1] * $scale - $point->y;
                $point->x = $hit[0] * $scale;
                $point->y = $hit[1] * $scale;
            }
            if ($shiftX === []) {
                continue;
            }
            $mx = self::median($shiftX);
            $my = self::median($shiftY);
            foreach ($doubtful as $i) {
                $points[$i]->x += $mx;
                $points[$i]->y += $my;
            }
        }
    }

    /**
     * Finds a point to a fraction of a pixel, or says that it is not found.
     *
     * @param Pyramid|null $before the frame before, to check against; null after a gap
     */
    public static function fine(FollowedPoint $point, Pyramid $pyramid, ?Pyramid $before): void
    {
        $point->found = false;
        $grey = $pyramid->levels[0];
        $patch = $point->look[0];
        $hit = $patch === null
            ? null
            : LucasKanade::find($patch, self::HALF[0], $grey, $point->x, $point->y, self::since($point->linear, $point->lies), 6);
        if ($hit === null || $hit[2] < self::ALIKE) {
            return;
        }
        if ($point->renewed && $point->first[0] !== null) {
            $first = LucasKanade::find(
                $point->first[0],
                self::HALF[0],
                $grey,
                $hit[0],
                $hit[1],
                self::since($point->firstLinear, $point->lies),
                5,
            );
            if ($first !== null && $first[2] > self::RENEW && hypot($first[0] - $hit[0], $first[1] - $hit[1]) < 2.0) {
                $hit = $first;
                $point->look = $point->first;
                $point->linear = $point->firstLinear;
                $point->renewed = false;
            }
        }
        if ($before !== null && !self::goesBack($point, $before->levels[0], $grey, $hit[0], $hit[1])) {
            return;
        }
        [$point->x, $point->y, $point->alike] = $hit;
        $point->found = true;
    }

    /** Forward-backward check: from the new place, the frame before must lead back to where the look came from. */
    private static function goesBack(FollowedPoint $point, Grey $before, Grey $grey, float $x, float $y): bool
    {
        $patch = LucasKanade::patch($grey, $x, $y, self::HALF[0]);
        if ($patch === null || !isset($point->wasX)) {
            return $patch !== null;
        }
        $back = LucasKanade::find($patch, self::HALF[0], $before, $point->wasX, $point->wasY, [1.0, 0.0, 0.0, 1.0], 5);

        return $back !== null && hypot($back[0] - $point->wasX, $back[1] - $point->wasY) < self::BACK;
    }

    /**
     * The turn and scale from when a look was taken until now.
     *
     * @param array{float, float, float, float} $then
     * @param array{float, float, float, float} $now
     *
     * @return array{float, float, float, float}
     */
    private static function since(array $then, array $now): array
    {
        if ($then === [1.0, 0.0, 0.0, 1.0]) {
            return $now;
        }
        [$a, $b, $c, $d] = $then;
        $det = $a * $d - $b * $c;
        // A surface seen nearly from the side tells nothing.
        $det = $det < self::FLAT ? self::FLAT : $det;

        return [
            ($now[0] * $d - $now[1] * $c) / $det, ($now[1] * $a - $now[0] * $b) / $det,
            ($now[2] * $d - $now[3] * $c) / $det, ($now[3] * $a - $now[2] * $b) / $det,
        ];
    }

    /** @param non-empty-list<float> $values */
    private static function median(array $values): float
    {
        sort($values);

        return $values[intdiv(count($values), 2)];
    }
}
