<?php

declare(strict_types=1);

namespace Cossel\Core\Geometry;

/**
 * How the places of a turning surface shift against each other: each along one direction by its depth,
 * p + (x, y) z(p). With the motion that follows it is an affine camera that looks at the surface.
 */
final readonly class Parallax
{
    /** Places at which the way out from the middle is looked at for where the surface turns out of sight. */
    private const STEPS = 14;
    private const SAFE = 0.9;

    /**
     * @param Relief $relief where the outline is stated
     * @param float  $x      shift of a place that stands out by 1
     */
    public function __construct(public Relief $relief, public float $x, public float $y) {}

    /** @return array{float, float} */
    public function apply(float $x, float $y): array
    {
        $z = $this->relief->depth($x, $y);

        return [$x + $this->x * $z, $y + $this->y * $z];
    }

    /** @return array{float, float} the place that is shifted here */
    public function undo(float $x, float $y): array
    {
        return $this->relief->back($x, $y, [$this->x, $this->y]);
    }

    /** The shift near a place, as a matrix that also carries the place itself rightly. */
    public function affineAt(float $x, float $y): Matrix
    {
        [$zx, $zy] = $this->relief->slope($x, $y);
        [$u, $v] = $this->apply($x, $y);
        [$a, $b, $c, $d] = [1.0 + $this->x * $zx, $this->x * $zy, $this->y * $zx, 1.0 + $this->y * $zy];

        return Matrix::of([$a, $b, $u - $a * $x - $b * $y, $c, $d, $v - $c * $x - $d * $y, 0, 0, 1]);
    }

    /**
     * Where a place of an edge is seen: what turns out of sight behind the surface stays at the surface's own edge.
     *
     * @return array{float, float}
     */
    public function seen(float $x, float $y): array
    {
        $length = hypot($this->x, $this->y);
        [$u, $v] = $this->apply($x, $y);
        // Too little to lay one place over another.
        if ($length * $this->relief->steepest * M_SQRT2 < self::SAFE) {
            return [$u, $v];
        }
        [$ex, $ey] = [$this->x / $length, $this->y / $length];
        $out = ($x - $this->relief->x - $this->relief->width / 2) * $ex + ($y - $this->relief->y - $this->relief->height / 2) * $ey;
        $furthest = $u * $ex + $v * $ey;
        $own = $furthest;
        for ($k = 0; $k < self::STEPS; ++$k) {
            $back = $out * ($k / self::STEPS - 1.0);
            [$px, $py] = $this->apply($x + $back * $ex, $y + $back * $ey);
            $at = $px * $ex + $py * $ey;
            $furthest = $out > 0.0 ? max($furthest, $at) : min($furthest, $at);
        }

        return [$u + ($furthest - $own) * $ex, $v + ($furthest - $own) * $ey];
    }
}
