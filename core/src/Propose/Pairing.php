<?php

declare(strict_types=1);

namespace Cossel\Core\Propose;

use Cossel\Core\Geometry\Extent;
use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\BlinkGuard;
use Cossel\Core\Recipe\Box;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\Motion;
use Cossel\Core\Recipe\Outline;
use Cossel\Core\Recipe\Pair;
use Cossel\Core\Recipe\Path;
use Cossel\Core\Recipe\PathPoint;
use Cossel\Core\Recipe\Shape;

/**
 * Makes the other one of two: an area with the outline mirrored to another place, moving in the same way, linked to the
 * first. Mattes of other areas are not taken along: they belong to the first one's place.
 */
final class Pairing
{
    private const SIDES = ['left' => 'right', 'right' => 'left', 'Left' => 'Right', 'Right' => 'Left'];

    /**
     * @param Extent                 $extent of the first on the frame
     * @param array{float, float}    $to     middle of the other one there, picture heights
     * @param callable(): string     $id     a free id for a shape
     */
    public static function of(Area $area, Extent $extent, int $frame, array $to, string $areaId, callable $id): Area
    {
        [$x, $y] = $extent->centre();
        $mirror = Matrix::of([-1, 0, $x + $to[0], 0, 1, $to[1] - $y, 0, 0, 1])->times($extent->motion->affineAt($extent->x, $extent->y));
        $shapes = [];
        foreach ($area->outline->shapes as $shape) {
            if ($shape->isDrawn()) {
                $shapes[] = self::mirrored($shape->at($frame), $mirror, $extent, $id());
            }
        }
        $name = strtr($area->name, self::SIDES);
        $motion = $area->motion->by === Motion::FOLLOW
            ? new Motion(
                Motion::FOLLOW,
                start: $frame,
                span: $area->motion->span,
                model: $area->motion->model,
                look: $area->motion->look->spots === [] ? $area->motion->look : new \Cossel\Core\Recipe\Look(),
                use: $area->motion->use,
                pivot: $to,
            )
            : new Motion($area->motion->by, use: $area->motion->use, pivot: $to, on: $area->motion->on);

        return new Area(
            $areaId,
            $name === $area->name ? "Other {$name}" : $name,
            $area->part,
            $area->person,
            true,
            new Outline($frame, $shapes, $area->outline->invert),
            $motion,
            $area->live,
            $area->strength,
            new BlinkGuard($area->blinkGuard->on),
            [],
            $area->pick,
            new Pair($area->id, true),
        );
    }

    private static function mirrored(Shape $shape, Matrix $mirror, Extent $extent, string $id): Shape
    {
        if ($shape instanceof Path) {
            return new Path(
                $id,
                array_map(static fn(PathPoint $p): PathPoint => $p->moved($mirror), $shape->points),
                $shape->featherIn,
                $shape->featherOut,
                $shape->grow,
                $shape->opacity,
                $shape->join,
            );
        }
        if (!$shape instanceof Ellipse && !$shape instanceof Box) {
            throw new \LogicException('No such kind of shape: ' . $shape->kind());
        }
        $scale = $extent->scale();
        $centre = $mirror->apply(...$shape->centre);
        $radii = [$shape->radii[0] * $scale, $shape->radii[1] * $scale];
        $turn = -($shape->turn + $extent->turn());

        return $shape instanceof Ellipse
            ? new Ellipse($id, $centre, $radii, $turn, $shape->featherIn, $shape->featherOut, $shape->grow, $shape->opacity, $shape->join)
            : new Box(
                $id,
                $centre,
                $radii,
                $turn,
                $shape->round,
                $shape->featherIn,
                $shape->featherOut,
                $shape->grow,
                $shape->opacity,
                $shape->join,
            );
    }
}
