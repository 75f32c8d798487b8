<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Picture\Gaussian;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Luma;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Touch\Effect;

/** Noise as strong as what grain is missing. */
final readonly class GrainEffect implements Effect
{
    /**
     * @param array{int, int} $place  where the tile begins
     * @param float           $wanted variance of the grain
     * @param Rect            $bounds of the area
     * @param int             $rows   of the picture
     */
    public function __construct(
        private GrainTile $tile,
        private array $place,
        private float $wanted,
        private Rect $bounds,
        private int $rows,
    ) {}

    /** What is looked at to know how much grain is in a rectangle. */
    public static function around(Rect $rect, int $rows): Rect
    {
        return $rect->grow(Gaussian::reach(GrainTile::SOFT) + Gaussian::reach(self::near($rows)));
    }

    public function needs(Rect $rect): Rect
    {
        return self::around($rect, $this->rows);
    }

    public function apply(Planes $planes, Weight $weight): void
    {
        $area = $this->bounds->grow(Gaussian::reach(GrainTile::SOFT));
        $luma = Luma::of($planes, $this->needs($weight->rect())->intersect($area)->intersect($planes->rect));
        $rect = $luma->rect;
        $squares = GrainTile::grain($luma);
        foreach ($squares as $i => $v) {
            $squares[$i] = $v * $v;
        }
        $present = Gaussian::values($squares, $rect->width, $rect->height, self::near($this->rows));
        $tile = $this->tile->values;
        [$left, $top] = $this->place;
        for ($y = $rect->y, $i = 0; $y < $rect->bottom(); ++$y) {
            $row = (($y + $top) & (GrainTile::SIDE - 1)) * GrainTile::SIDE;
            for ($x = $rect->x; $x < $rect->right(); ++$x, ++$i) {
                $missing = $this->wanted - $present[$i];
                $present[$i] = $missing > 0.0 ? sqrt($missing) * $tile[$row + (($x + $left) & (GrainTile::SIDE - 1))] : 0.0;
            }
        }
        Luma::add($planes, $weight, new Grey($rect, $present));
    }

    /** Sigma in pixels of the neighbourhood in which grain is measured. */
    private static function near(int $rows): float
    {
        return max(5.0, 0.015 * $rows);
    }
}
