<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Picture\Blocks;
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
     * @param Rect            $area   where grain is measured
     * @param float           $near   sigma in pixels of the neighbourhood in which grain is measured
     */
    public function __construct(
        private GrainTile $tile,
        private array $place,
        private float $wanted,
        private Rect $area,
        private float $near,
    ) {}

    /** What is looked at to know how much grain is in a rectangle. */
    public static function around(Rect $rect, float $near): Rect
    {
        $side = self::side($near);

        return $rect->grow(Gaussian::reach(GrainTile::SOFT) + $side * (2 + Gaussian::reach($near / $side)));
    }

    public function needs(Rect $rect): Rect
    {
        return self::around($rect, $this->near);
    }

    public function apply(Planes $planes, Weight $weight): void
    {
        $rect = $weight->rect();
        $present = $this->present($planes, $rect);
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

    /**
     * Variance of the grain round each pixel of a rectangle.
     *
     * @return list<float>
     */
    private function present(Planes $planes, Rect $rect): array
    {
        $side = self::side($this->near);
        $sigma = $this->near / $side;
        // Always the same blocks, whatever part of the area is asked for.
        $blocks = new Blocks($this->area, $side);
        $blocks = $blocks->some($blocks->holding($rect->grow($side * (1 + Gaussian::reach($sigma)))->intersect($this->area)));
        $luma = Luma::of($planes, $blocks->rect->grow(Gaussian::reach(GrainTile::SOFT))->intersect($this->area));
        $squares = (new Grey($luma->rect, GrainTile::grain($luma)))->window($blocks->rect)->v;
        foreach ($squares as $i => $v) {
            $squares[$i] = $v * $v;
        }

        return $blocks->over(
            Gaussian::values($blocks->means($squares), $blocks->width, $blocks->height, sqrt($sigma * $sigma - ($side === 1 ? 0.0 : 0.25))),
            $rect,
        );
    }

    /** Of the blocks it is measured in: small beside the neighbourhood. */
    private static function side(float $near): int
    {
        return max(1, (int) ($near / 2.5));
    }
}
