<?php

declare(strict_types=1);

namespace Cossel\Core\Outline;

use Cossel\Core\Recipe\Box;
use Cossel\Core\Recipe\Path;
use Cossel\Core\Recipe\PathPoint;

/**
 * The edge of a box or path on a frame as a closed run of straight pieces, in pixels, nowhere further from the true edge
 * than a tolerance.
 */
final readonly class Contour
{
    /**
     * @param list<float> $x
     * @param list<float> $y
     */
    private function __construct(public array $x, public array $y) {}

    /**
     * @param Pose $pose     from where the shape is stated to the frame, in picture heights
     * @param float $tolerance pixels
     */
    public static function of(Box|Path $shape, Pose $pose, int $height, float $tolerance): self
    {
        $reach = $tolerance / $height / max(1e-6, self::scale($shape, $pose));
        $points = $shape instanceof Box
            ? self::box($shape, $reach)
            : self::path($pose->warp === null ? $shape->points : $pose->warp->path($shape->points), $reach);
        $xs = $ys = [];
        foreach ($points as [$x, $y]) {
            [$u, $v] = $pose->motion->apply($x, $y);
            $xs[] = $u * $height;
            $ys[] = $v * $height;
        }

        return new self($xs, $ys);
    }

    /** By how much lengths grow under the shape's motion, where the shape is. */
    public static function scale(Box|Path $shape, Pose $pose): float
    {
        if ($shape instanceof Box) {
            [$x, $y] = $shape->centre;
        } else {
            $x = array_sum(array_map(static fn(PathPoint $p): float => $p->x, $shape->points)) / count($shape->points);
            $y = array_sum(array_map(static fn(PathPoint $p): float => $p->y, $shape->points)) / count($shape->points);
        }

        return $pose->motion->affineAt($x, $y)->scale();
    }

    /** @return array{float, float} the point of a Bézier piece from one path point to the next */
    public static function on(PathPoint $a, PathPoint $b, float $t): array
    {
        $s = 1 - $t;
        $p = $s * $s * $s;
        $q = 3 * $s * $s * $t;
        $r = 3 * $s * $t * $t;
        $w = $t * $t * $t;

        return [
            $p * $a->x + $q * ($a->x + $a->outX) + $r * ($b->x + $b->inX) + $w * $b->x,
            $p * $a->y + $q * ($a->y + $a->outY) + $r * ($b->y + $b->inY) + $w * $b->y,
        ];
    }

    /**
     * A chord of a cubic cut into n equal parts of its parameter lies within 3/4 d / n² of it, with d the larger of its
     * second differences.
     *
     * @param list<PathPoint> $points
     *
     * @return list<array{float, float}>
     */
    private static function path(array $points, float $tolerance): array
    {
        $line = [];
        foreach ($points as $i => $a) {
            $b = $points[($i + 1) % count($points)];
            $d = max(
                hypot($b->x + $b->inX - 2 * $a->outX - $a->x, $b->y + $b->inY - 2 * $a->outY - $a->y),
                hypot($a->x + $a->outX - 2 * $b->inX - $b->x, $a->y + $a->outY - 2 * $b->inY - $b->y),
            );
            $straight = $a->outX === 0.0 && $a->outY === 0.0 && $b->inX === 0.0 && $b->inY === 0.0;
            $n = $straight ? 1 : max(1, min(400, (int) ceil(sqrt(0.75 * $d / $tolerance))));
            for ($k = 0; $k < $n; ++$k) {
                $line[] = self::on($a, $b, $k / $n);
            }
        }

        return $line;
    }

    /** @return list<array{float, float}> */
    private static function box(Box $box, float $tolerance): array
    {
        $corner = $box->round * min($box->radii);
        $n = $corner <= 0.0 ? 0 : max(2, min(400, (int) ceil(M_PI_2 / (2 * acos(max(0.0, 1 - $tolerance / $corner))))));
        $cos = cos(deg2rad($box->turn));
        $sin = sin(deg2rad($box->turn));
        $line = [];
        foreach ([[1, 1], [-1, 1], [-1, -1], [1, -1]] as $quarter => [$right, $down]) {
            $cx = $right * ($box->radii[0] - $corner);
            $cy = $down * ($box->radii[1] - $corner);
            for ($k = 0; $k <= $n; ++$k) {
                $angle = M_PI_2 * ($quarter + ($n === 0 ? 0 : $k / $n));
                $x = $cx + $corner * cos($angle);
                $y = $cy + $corner * sin($angle);
                $line[] = [$box->centre[0] + $x * $cos - $y * $sin, $box->centre[1] + $x * $sin + $y * $cos];
            }
        }

        return $line;
    }
}
