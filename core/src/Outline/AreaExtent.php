<?php

declare(strict_types=1);

namespace Cossel\Core\Outline;

use Cossel\Core\Geometry\Extent;
use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Geometry\TurnedSurface;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\AreaShape;
use Cossel\Core\Recipe\Box;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\Path;
use Cossel\Core\Recipe\PathPoint;
use Cossel\Core\Recipe\Shape;

/** The extent of areas: the upright box round the first of their shapes, without feather, and its motion. */
final class AreaExtent
{
    private const LEAST = 1e-4;

    public static function of(Area $area, int $frame, Poses $poses): Extent
    {
        foreach ($area->outline->shapes as $shape) {
            if ($shape->isDrawn()) {
                return self::round($shape->at($frame), $poses->pose($area, $shape, $frame));
            }
        }
        $other = $area->outline->shapes[0] ?? null;

        return $other instanceof AreaShape
            ? self::of($poses->area($other->of), $frame, $poses)
            : new Extent(Matrix::identity(), 0.5, 0.5, 0.5, 0.5);
    }

    /** Where the surface is that the area lies on, if it has a relief. */
    public static function surface(Area $area, int $frame, Poses $poses): ?TurnedSurface
    {
        foreach ($area->outline->shapes as $shape) {
            if ($shape->isDrawn()) {
                $pose = $poses->pose($area, $shape, $frame);

                return $pose->parallax === null ? null : new TurnedSurface($pose->motion, $pose->parallax);
            }
        }

        return null;
    }

    private static function round(Shape $shape, Pose $pose): Extent
    {
        if ($shape instanceof Path) {
            $x = array_map(static fn(PathPoint $p): float => $p->x, $shape->points);
            $y = array_map(static fn(PathPoint $p): float => $p->y, $shape->points);

            $middle = [(min($x) + max($x)) / 2, (min($y) + max($y)) / 2];

            return new Extent(
                self::about($pose, ...$middle),
                $middle[0],
                $middle[1],
                max(self::LEAST, (max($x) - min($x)) / 2),
                max(self::LEAST, (max($y) - min($y)) / 2),
            );
        }
        if (!$shape instanceof Ellipse && !$shape instanceof Box) {
            throw new \LogicException('No such kind of shape: ' . $shape->kind());
        }
        [$a, $b] = $shape->radii;
        $cos = cos(deg2rad($shape->turn));
        $sin = sin(deg2rad($shape->turn));
        [$across, $along] = $shape instanceof Ellipse
            ? [hypot($a * $cos, $b * $sin), hypot($a * $sin, $b * $cos)]
            : [abs($a * $cos) + abs($b * $sin), abs($a * $sin) + abs($b * $cos)];

        [$x, $y] = $shape->centre;

        return new Extent(self::about($pose, $x, $y), $x, $y, max(self::LEAST, $across), max(self::LEAST, $along));
    }

    /** The motion, and on a relief how it is there. */
    private static function about(Pose $pose, float $x, float $y): Matrix
    {
        return $pose->parallax === null ? $pose->motion : $pose->affineAt($x, $y);
    }
}
