<?php

declare(strict_types=1);

namespace Cossel\Core\Outline;

use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\AreaShape;
use Cossel\Core\Recipe\Box;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\Join;
use Cossel\Core\Recipe\Path;
use Cossel\Core\Recipe\People;
use Cossel\Core\Recipe\Shape;

/**
 * The matte of an area's outline on one frame: its shapes, moved, feathered and joined in order. First file to read of
 * this folder.
 */
final readonly class AreaMatte
{
    /**
     * @param list<array{Join, ShapeMatte}> $shapes
     */
    private function __construct(private array $shapes, private bool $invert, private Rect $frame) {}

    /**
     * @param Rect       $frame   the whole picture in pixels
     * @param Frame|null $picture as in {@see AreaMattes}
     */
    public static function on(Area $area, int $number, Poses $poses, Rect $frame, ?Frame $picture = null): self
    {
        return (new AreaMattes($number, $poses, $frame, $picture))->of($area);
    }

    /**
     * @param Rect                           $frame   the whole picture in pixels
     * @param Frame|null                     $picture as in {@see AreaMattes}
     * @param \Closure(string): SharedMatte $other   the matte of another area
     */
    public static function of(Area $area, int $number, Poses $poses, Rect $frame, ?Frame $picture, \Closure $other): self
    {
        $area = $area->outlined();
        $shapes = [];
        foreach ($area->outline->shapes as $shape) {
            $shapes[] = [$shape->join, match (true) {
                $shape instanceof AreaShape => new OtherAreaMatte($other($shape->of), $shape->at($number)->opacity),
                $shape instanceof People => new PeopleShapeMatte(
                    $shape->at($number),
                    $poses->people($area, $shape, $number),
                    $frame,
                    $picture,
                ),
                default => self::drawn($shape->at($number), $poses->pose($area, $shape, $number), $frame),
            }];
        }

        return new self($shapes, $area->outline->invert, $frame);
    }

    /** Where the matte may be other than 0. */
    public function bounds(): Rect
    {
        if ($this->invert) {
            return $this->frame;
        }
        $bounds = Rect::none();
        foreach ($this->shapes as [$join, $shape]) {
            $bounds = match ($join) {
                Join::Add => $bounds->union($shape->bounds()),
                Join::Keep => $bounds->intersect($shape->bounds()),
                Join::Cut => $bounds,
            };
        }

        return $bounds->intersect($this->frame);
    }

    public function matte(Rect $rect): Grey
    {
        $matte = array_fill(0, $rect->count(), 0.0);
        foreach ($this->shapes as $i => [$join, $shape]) {
            $drawn = $shape->matte($rect)->v;
            if ($i === 0 && $join === Join::Add) {
                $matte = $drawn;
            } else {
                $join->into($matte, $drawn);
            }
        }
        if ($this->invert) {
            foreach ($matte as $i => $v) {
                $matte[$i] = 1.0 - $v;
            }
        }

        return new Grey($rect, $matte);
    }

    /** Nanoseconds to draw a pixel, about; measured. */
    public function price(): float
    {
        return array_sum(array_map(static fn(array $shape): float => $shape[1]->price(), $this->shapes));
    }

    private static function drawn(Shape $shape, Pose $pose, Rect $frame): ShapeMatte
    {
        return match (true) {
            $shape instanceof Ellipse && $pose->parallax === null => EllipseMatte::on($shape, $pose->motion, $frame->height),
            $shape instanceof Ellipse, $shape instanceof Box, $shape instanceof Path => ContourMatte::on($shape, $pose, $frame->height),
            default => throw new \LogicException('No such kind of shape: ' . $shape->kind()),
        };
    }
}
