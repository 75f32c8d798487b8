<?php

declare(strict_types=1);

namespace Cossel\Core\Propose;

use Cossel\Core\Geometry\Extent;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Planes;

/**
 * Finds what a spot can be covered with: the place nearby whose ring is most like the ring round the spot, and whose own
 * middle is as even as that ring. Offsets lie on circles of 2.2 to 5 radii; the cost of one is the mean square
 * difference of the rings' R'G'B' less their means, plus that of its middle from its own ring's mean, plus a little for being far.
 */
final class Cover
{
    private const CIRCLES = [2.2, 2.8, 3.5, 4.2, 5.0];
    private const DIRECTIONS = 24;
    private const FAR = 2e-5;

    /**
     * @param Planes $planes the picture round the spot, as far as it goes
     * @param Grey   $matte  of the spot
     * @param Extent $extent of the spot
     * @param int    $rows   pixels in a picture height
     *
     * @return array{float, float} offset in picture heights of the outline's frame
     */
    public static function of(Planes $planes, Grey $matte, Extent $extent, int $rows): array
    {
        $radius = max(2.0, $extent->radius() * $rows);
        [$cx, $cy] = array_map(static fn(float $v): float => $v * $rows, $extent->centre());
        [$ring, $middle] = self::places($planes, $matte, $cx, $cy, $radius);
        $here = self::at($planes, $ring, 0, 0);
        $best = [INF, 0.0, $radius * 2.2];
        foreach (self::CIRCLES as $circle) {
            for ($k = 0; $k < self::DIRECTIONS; ++$k) {
                $angle = 2 * M_PI * $k / self::DIRECTIONS;
                $dx = (int) round($circle * $radius * cos($angle));
                $dy = (int) round($circle * $radius * sin($angle));
                $there = self::at($planes, $ring, $dx, $dy);
                $inside = self::at($planes, $middle, $dx, $dy);
                if ($here === null || $there === null || $inside === null) {
                    continue;
                }
                $cost = self::unlike($here, $there) + self::uneven($inside, $there) + self::FAR * $circle * $circle;
                $best = min($best, [$cost, (float) $dx, (float) $dy]);
            }
        }
        // From this frame's pixels back to the outline's frame.
        $back = $extent->motion->affineAt($extent->x, $extent->y)->inverse();
        [$x0, $y0] = $back->apply($cx / $rows, $cy / $rows);
        [$x1, $y1] = $back->apply(($cx + $best[1]) / $rows, ($cy + $best[2]) / $rows);

        return [$x1 - $x0, $y1 - $y0];
    }

    /**
     * Pixels of the ring round the spot and of its middle.
     *
     * @return array{list<array{int, int}>, list<array{int, int}>}
     */
    private static function places(Planes $planes, Grey $matte, float $cx, float $cy, float $radius): array
    {
        $ring = $middle = [];
        $reach = (int) ceil(2 * $radius) + 1;
        for ($y = (int) $cy - $reach; $y <= (int) $cy + $reach; ++$y) {
            for ($x = (int) $cx - $reach; $x <= (int) $cx + $reach; ++$x) {
                $d = hypot($x + 0.5 - $cx, $y + 0.5 - $cy) / $radius;
                $inMatte = $x >= $matte->rect->x
                    && $y >= $matte->rect->y
                    && $x < $matte->rect->right()
                    && $y < $matte->rect->bottom()
                    && $matte->at($x, $y) > 0.05;
                if ($d < 1.1) {
                    $middle[] = [$x, $y];
                } elseif ($d < 2.0 && !$inMatte) {
                    $ring[] = [$x, $y];
                }
            }
        }

        return [$ring, $middle];
    }

    /**
     * @param list<array{int, int}> $places
     *
     * @return list<array{float, float, float}>|null R'G'B' there; null where it leaves the picture
     */
    private static function at(Planes $planes, array $places, int $dx, int $dy): ?array
    {
        $values = [];
        foreach ($places as [$x, $y]) {
            [$x, $y] = [$x + $dx, $y + $dy];
            if ($x < $planes->rect->x || $y < $planes->rect->y || $x >= $planes->rect->right() || $y >= $planes->rect->bottom()) {
                return null;
            }
            $values[] = $planes->at($x, $y);
        }

        return $values;
    }

    /**
     * @param list<array{float, float, float}> $here
     * @param list<array{float, float, float}> $there
     */
    private static function unlike(array $here, array $there): float
    {
        [$m, $n] = [self::mean($here), self::mean($there)];
        $sum = 0.0;
        foreach ($here as $i => $rgb) {
            foreach ($rgb as $c => $v) {
                $sum += ($v - $m[$c] - $there[$i][$c] + $n[$c]) ** 2;
            }
        }

        return $sum / max(1, count($here));
    }

    /**
     * @param list<array{float, float, float}> $inside
     * @param list<array{float, float, float}> $ring
     */
    private static function uneven(array $inside, array $ring): float
    {
        $m = self::mean($ring);
        $sum = 0.0;
        foreach ($inside as $rgb) {
            foreach ($rgb as $c => $v) {
                $sum += ($v - $m[$c]) ** 2;
            }
        }

        return $sum / max(1, count($inside));
    }

    /**
     * @param list<array{float, float, float}> $values
     *
     * @return array{float, float, float}
     */
    private static function mean(array $values): array
    {
        $n = max(1, count($values));

        return [
            array_sum(array_column($values, 0)) / $n,
            array_sum(array_column($values, 1)) / $n,
            array_sum(array_column($values, 2)) / $n,
        ];
    }
}
