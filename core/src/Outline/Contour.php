<?php

declare(strict_types=1);

namespace Cossel\Core\Outline;

use Cossel\Core\Recipe\Box;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\Path;
use Cossel\Core\Recipe\PathPoint;

/**
 * The edge of a box, path or ellipse on a frame as a closed run of straight pieces, in pixels, nowhere further from the true edge
 * than a tolerance.
 */
final readonly class Contour
{
    /** Longest straight piece of an edge that goes over a relief, picture heights. */
    private const BENT = 0.008;

    /** What lengths across an edge are not foreshortened beyond, nor stretched. */
    private const NARROWEST = 0.2;
    private const WIDEST = 2.0;
    /** Corners on either side over which that is softened. */
    private const SOFT = 3;

    /**
     * @param list<float> $x
     * @param list<float> $y
     * @param list<float> $across of each corner: by how much lengths across the edge grow, against those at the shape's middle;
     *                            none where that is the same all along
     */
    private function __construct(public array $x, public array $y, public array $across = []) {}

    /**
     * @param Pose $pose     from where the shape is stated to the frame, in picture heights
     * @param float $tolerance pixels
     */
    public static function of(Box|Path|Ellipse $shape, Pose $pose, int $height, float $tolerance): self
    {
        $reach = $tolerance / $height / max(1e-6, self::scale($shape, $pose));
        $parallax = $pose->bend();
        $points = match (true) {
            $shape instanceof Box => self::box($shape, $reach),
            $shape instanceof Ellipse => self::ellipse($shape, $reach),
            default => self::path($parallax === null ? $pose->path($shape->points) : $shape->points, $reach),
        };
        $points = $parallax === null ? $points : self::fine($points);
        $xs = $ys = [];
        foreach ($points as [$x, $y]) {
            [$u, $v] = $pose->motion->apply(...($parallax === null ? [$x, $y] : $parallax->seen($x, $y)));
            $xs[] = $u * $height;
            $ys[] = $v * $height;
        }

        $scale = $height * self::scale($shape, $pose);

        return new self($xs, $ys, $parallax === null ? [] : self::across($points, $xs, $ys, $pose, $height, $scale));
    }

    /**
     * A strip along an edge is seen as wide as its area over its length: by a map of determinant D that makes a length along the edge T
     * times as long, lengths across it become D / T times as long.
     *
     * @param list<array{float, float}> $points where the corners are stated
     * @param list<float>               $xs     and where they are seen, in pixels
     * @param list<float>               $ys
     * @param float                     $scale  at the shape's middle, in pixels
     *
     * @return list<float>
     */
    private static function across(array $points, array $xs, array $ys, Pose $pose, int $height, float $scale): array
    {
        $all = [];
        $n = count($points);
        foreach ($points as $i => [$x, $y]) {
            [$before, $next] = [($i + $n - 1) % $n, ($i + 1) % $n];
            $stated = hypot($points[$next][0] - $points[$before][0], $points[$next][1] - $points[$before][1]);
            $seen = hypot($xs[$next] - $xs[$before], $ys[$next] - $ys[$before]);
            $across = $seen <= 0.0 ? 0.0 : ($pose->affineAt($x, $y)->scale() * $height) ** 2 * $stated / $seen;
            $all[] = max(self::NARROWEST, min(self::WIDEST, $across / $scale));
        }

        return self::smooth($all);
    }

    /**
     * Slopes of a relief change from cell to cell; what is drawn by them does not.
     *
     * @param list<float> $v all the way round
     *
     * @return list<float>
     */
    private static function smooth(array $v): array
    {
        $n = count($v);

        return array_map(static function (int $i) use ($v, $n): float {
            $sum = 0.0;
            for ($k = -self::SOFT; $k <= self::SOFT; ++$k) {
                $sum += $v[($i + $k + self::SOFT * $n) % $n];
            }

            return $sum / (2 * self::SOFT + 1);
        }, range(0, $n - 1));
    }

    /**
     * What is to be bent needs corners on its straight pieces, too.
     *
     * @param list<array{float, float}> $points
     *
     * @return list<array{float, float}>
     */
    private static function fine(array $points): array
    {
        $line = [];
        foreach ($points as $i => [$x, $y]) {
            [$u, $v] = $points[($i + 1) % count($points)];
            $n = max(1, min(100, (int) ceil(hypot($u - $x, $v - $y) / self::BENT)));
            for ($k = 0; $k < $n; ++$k) {
                $line[] = [$x + ($u - $x) * $k / $n, $y + ($v - $y) * $k / $n];
            }
        }

        return $line;
    }

    /** By how much lengths grow under the shape's motion, where the shape is. */
    public static function scale(Box|Path|Ellipse $shape, Pose $pose): float
    {
        return $pose->affineAt(...self::middle($shape))->scale();
    }

    /** How much is seen of where the shape lies: it fades where all of it turns away. */
    public static function seen(Box|Path|Ellipse $shape, Pose $pose): float
    {
        if ($pose->bend() === null) {
            return 1.0;
        }
        $places = [self::middle($shape)];
        if ($shape instanceof Path) {
            $places = [...$places, ...array_map(static fn(PathPoint $p): array => [$p->x, $p->y], $shape->points)];
        } else {
            [$x, $y] = $shape->centre;
            [$a, $b] = $shape->radii;
            $places = [...$places, [$x - $a, $y], [$x + $a, $y], [$x, $y - $b], [$x, $y + $b]];
        }

        return max(array_map(static fn(array $p): float => $pose->facing(...$p), $places));
    }

    /** @return array{float, float} */
    private static function middle(Box|Path|Ellipse $shape): array
    {
        if (!$shape instanceof Path) {
            return $shape->centre;
        }
        $mean = static fn(array $v): float => array_sum($v) / count($v);

        return [
            $mean(array_map(static fn(PathPoint $p): float => $p->x, $shape->points)),
            $mean(array_map(static fn(PathPoint $p): float => $p->y, $shape->points)),
        ];
    }

    /**
     * Places along a closed path.
     *
     * @param list<PathPoint> $points
     *
     * @return list<array{float, float}>
     */
    public static function along(array $points, int $perPiece): array
    {
        $line = [];
        foreach ($points as $i => $p) {
            for ($k = 0; $k < $perPiece; ++$k) {
                $line[] = self::on($p, $points[($i + 1) % count($points)], $k / $perPiece);
            }
        }

        return $line;
    }

    /**
     * Whether a place lies inside a closed line, even-odd.
     *
     * @param list<array{float, float}> $line
     */
    public static function holds(array $line, float $x, float $y): bool
    {
        $in = false;
        $b = $line[count($line) - 1] ?? [0.0, 0.0];
        foreach ($line as $a) {
            if (($a[1] > $y) !== ($b[1] > $y) && $x < ($b[0] - $a[0]) * ($y - $a[1]) / ($b[1] - $a[1]) + $a[0]) {
                $in = !$in;
            }
            $b = $a;
        }

        return $in;
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
    private static function ellipse(Ellipse $ellipse, float $tolerance): array
    {
        [$a, $b] = $ellipse->radii;
        $n = max(12, min(400, (int) ceil(M_PI / acos(max(0.0, 1 - min(1.0, $tolerance / max($a, $b, 1e-9)))))));
        $cos = cos(deg2rad($ellipse->turn));
        $sin = sin(deg2rad($ellipse->turn));
        $line = [];
        for ($k = 0; $k < $n; ++$k) {
            $x = $a * cos(2 * M_PI * $k / $n);
            $y = $b * sin(2 * M_PI * $k / $n);
            $line[] = [$ellipse->centre[0] + $x * $cos - $y * $sin, $ellipse->centre[1] + $x * $sin + $y * $cos];
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
