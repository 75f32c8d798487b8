<?php

declare(strict_types=1);

namespace Cossel\Core\Outline;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Join;
use Cossel\Core\Recipe\Outline;

/**
 * The matte of an area's outline on one frame: its shapes, moved, feathered and joined in order. First file to read of
 * this folder.
 */
final readonly class AreaMatte
{
    /**
     * @param list<array{Join, PlacedEllipse}> $shapes
     */
    private function __construct(private array $shapes, private bool $invert, private Rect $frame) {}

    /**
     * @param Matrix $motion of the area from its outline's frame to this one, in picture heights
     * @param Rect   $frame  the whole picture in pixels
     */
    public static function on(Outline $outline, int $number, Matrix $motion, Rect $frame): self
    {
        $shapes = [];
        foreach ($outline->shapes as $shape) {
            $shapes[] = [$shape->join, PlacedEllipse::on($shape->at($number), $motion, $frame->height)];
        }

        return new self($shapes, $outline->invert, $frame);
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
}
