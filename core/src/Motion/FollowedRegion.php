<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Geometry\Relief;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Rect;

/** A region on the start frame, and the surface it is taken for. Lengths in pixels. */
final readonly class FollowedRegion
{
    /** Share of its size at which a point is an outlier. */
    private const TOLERANCE = 0.07;
    /** How far round it a relief reaches, a share of it; further below: a neck is on a head. */
    private const ROUND = 0.15;
    private const BELOW = 0.45;

    public float $size;
    public float $tolerance;

    /** @param Grey $mask hard-edged, over its bounds */
    public function __construct(public Grey $mask, public SurfaceView $view)
    {
        $this->size = sqrt(max(1.0, array_sum($mask->v)));
        $this->tolerance = max(1.5, self::TOLERANCE * $this->size);
    }

    /** @return array{float, float} */
    public function middle(): array
    {
        $r = $this->mask->rect;

        return [$r->x + $r->width / 2, $r->y + $r->height / 2];
    }

    public function holds(float $x, float $y): bool
    {
        [$column, $row] = [(int) floor($x), (int) floor($y)];

        return $this->mask->rect->contains(Rect::of($column, $row, 1, 1)) && $this->mask->at($column, $row) > 0.5;
    }

    /** @return array{float, float} where a motion takes its middle */
    public function moved(ReliefMotion $motion): array
    {
        $middle = $this->middle();

        return $motion->apply(...[...$middle, $this->view->depth(...$middle)]);
    }

    /** The motion with the surface taken for flat at the depth of its middle. */
    public function flat(ReliefMotion $motion): Matrix
    {
        $z = $this->view->depth(...$this->middle());

        return Matrix::move($motion->depth[0] * $z, $motion->depth[1] * $z)->times($motion->matrix);
    }

    /** Its bounds, moved. */
    public function where(ReliefMotion $motion): Rect
    {
        $r = $this->mask->rect;
        $xs = $ys = [];
        foreach ([0.0, 0.5, 1.0] as $u) {
            foreach ([0.0, 0.5, 1.0] as $v) {
                [$x, $y] = [$r->x + $u * $r->width, $r->y + $v * $r->height];
                [$xs[], $ys[]] = $motion->apply($x, $y, $this->view->depth($x, $y));
            }
        }

        return Rect::around(min($xs), min($ys), max($xs), max($ys));
    }

    /** @param callable(float, float): float $depth */
    public function relief(callable $depth): Relief
    {
        $r = $this->mask->rect;
        [$w, $h] = [$r->width, $r->height];

        $tall = (1 + self::ROUND + self::BELOW) * $h;

        return Relief::over($r->x - self::ROUND * $w, $r->y - self::ROUND * $h, (1 + 2 * self::ROUND) * $w, $tall, $depth);
    }
}
