<?php

declare(strict_types=1);

namespace Cossel\Core\Touch\Internal;

use Cossel\Core\Geometry\Extent;
use Cossel\Core\Picture\Rect;

/** The ellipse of an iris: how far from its middle pixels are. */
final readonly class IrisDisc
{
    public function __construct(private Extent $extent, private int $rows) {}

    /**
     * @param int $side of a block of pixels
     *
     * @return list<float> of the middles of a rectangle's blocks; 1 at the edge of the iris
     */
    public function distances(Rect $rect, int $side = 1): array
    {
        $extent = $this->extent;
        $back = $extent->motion->affineAt($extent->x, $extent->y)->inverse();
        $at = function (float $x, float $y) use ($back, $extent): array {
            [$px, $py] = $back->apply($x / $this->rows, $y / $this->rows);

            return [($px - $extent->x) / $extent->halfWidth, ($py - $extent->y) / $extent->halfHeight];
        };
        // The motion is affine there: both coordinates grow evenly along a row.
        [$u0, $v0] = $at(0.0, 0.0);
        [$u1, $v1] = $at(1.0, 0.0);
        [$du, $dv] = [($u1 - $u0) * $side, ($v1 - $v0) * $side];
        $distances = [];
        $columns = intdiv($rect->width + $side - 1, $side);
        for ($y = $rect->y + $side / 2, $bottom = $rect->bottom() + ($side - 1) / 2; $y < $bottom; $y += $side) {
            [$u, $v] = $at($rect->x + $side / 2, $y);
            for ($x = 0; $x < $columns; ++$x) {
                $p = $u + $x * $du;
                $q = $v + $x * $dv;
                $distances[] = sqrt($p * $p + $q * $q);
            }
        }

        return $distances;
    }
}
