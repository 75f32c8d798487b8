<?php

declare(strict_types=1);

namespace Cossel\Core\Outline;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Geometry\Parallax;
use Cossel\Core\Recipe\PathPoint;

/** Where a shape is on one frame: its motion from where it is stated, and how its edge is warped before that. */
final readonly class Pose
{
    /** Cosines of the angle to the camera between which a surface fades out of sight. */
    private const HIDDEN = 0.12;
    private const SEEN = 0.3;

    /**
     * @param Matrix        $motion   in picture heights
     * @param Warp|null     $warp     shifts the shape's edge before the motion
     * @param Parallax|null $parallax shifts each place by its depth, and the edge with it where that has no warp
     */
    public function __construct(public Matrix $motion, public ?Warp $warp = null, public ?Parallax $parallax = null) {}

    public static function still(): self
    {
        return new self(Matrix::identity());
    }

    /** What bends an edge: nothing where that was followed for itself. */
    public function bend(): ?Parallax
    {
        return $this->warp === null ? $this->parallax : null;
    }

    /**
     * A path before the motion.
     *
     * @param list<PathPoint> $points
     *
     * @return list<PathPoint>
     */
    public function path(array $points): array
    {
        $parallax = $this->bend();
        if ($parallax === null) {
            return $this->warp === null ? $points : $this->warp->path($points);
        }

        return array_map(static function (PathPoint $p) use ($parallax): PathPoint {
            [$x, $y] = $parallax->seen($p->x, $p->y);
            $moved = $p->moved($parallax->affineAt($p->x, $p->y));

            return new PathPoint($x, $y, $moved->inX, $moved->inY, $moved->outX, $moved->outY);
        }, $points);
    }

    /** @return array{float, float} where a place of the surface is */
    public function apply(float $x, float $y): array
    {
        return $this->motion->apply(...($this->parallax !== null ? $this->parallax->apply($x, $y) : [$x, $y]));
    }

    /** @return array{float, float} the place of the surface that is here */
    public function undo(float $x, float $y): array
    {
        [$u, $v] = $this->motion->inverse()->apply($x, $y);

        return $this->parallax !== null ? $this->parallax->undo($u, $v) : [$u, $v];
    }

    /** The linear part of where the surface goes near a place, as a matrix that also carries the place itself rightly. */
    public function affineAt(float $x, float $y): Matrix
    {
        if ($this->parallax === null) {
            return $this->motion->affineAt($x, $y);
        }

        return $this->motion->affineAt(...$this->parallax->apply($x, $y))->times($this->parallax->affineAt($x, $y));
    }

    /** The motion; over a relief what of it is moving, turning and growing at a place, so that a picture taken along it is not bent. */
    public function upright(float $x, float $y): Matrix
    {
        if ($this->parallax === null) {
            return $this->motion;
        }
        [$u, $v] = $this->apply($x, $y);

        return Matrix::about($x, $y, $this->affineAt($x, $y)->turn(), $this->size(), $this->size(), $u - $x, $v - $y);
    }

    /** By how much the surface has grown: what the camera says of its size, however it is turned. */
    public function size(): float
    {
        [$a, $b, , $c, $d] = $this->motion->m;
        [$u, $v] = $this->depth();

        return sqrt(($a * $a + $b * $b + $c * $c + $d * $d + $u * $u + $v * $v) / 2);
    }

    /**
     * How much of the surface at a place is seen, 0 to 1: it fades as it turns away from the camera. By the affine camera
     * [A | d] of scale s the cosine of the angle is det(A + d grad z) / (s² |(-grad z, 1)|).
     */
    public function facing(float $x, float $y): float
    {
        if ($this->parallax === null) {
            return 1.0;
        }
        [$a, $b, , $c, $d] = $this->motion->m;
        [$u, $v] = $this->depth();
        [$zx, $zy] = $this->parallax->relief->slope($x, $y);
        $turned = ($a + $u * $zx) * ($d + $v * $zy) - ($b + $u * $zy) * ($c + $v * $zx);
        $cosine = $turned / max(1e-9, $this->size() ** 2) / sqrt(1.0 + $zx * $zx + $zy * $zy);
        $t = max(0.0, min(1.0, ($cosine - self::HIDDEN) / (self::SEEN - self::HIDDEN)));

        return $t * $t * (3.0 - 2.0 * $t);
    }

    /** @return array{float, float} shift, after the motion, of a place that stands out by 1 */
    private function depth(): array
    {
        [$a, $b, , $c, $d] = $this->motion->m;
        [$x, $y] = $this->parallax === null ? [0.0, 0.0] : [$this->parallax->x, $this->parallax->y];

        return [$a * $x + $b * $y, $c * $x + $d * $y];
    }
}
