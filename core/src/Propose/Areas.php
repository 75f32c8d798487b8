<?php

declare(strict_types=1);

namespace Cossel\Core\Propose;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Motion\FrameSource;
use Cossel\Core\Motion\PathEdge;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\AreaShape;
use Cossel\Core\Recipe\BlinkGuard;
use Cossel\Core\Recipe\Channel;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\Join;
use Cossel\Core\Recipe\Keyed;
use Cossel\Core\Recipe\Live;
use Cossel\Core\Recipe\Motion;
use Cossel\Core\Recipe\Outline;
use Cossel\Core\Recipe\Part;
use Cossel\Core\Recipe\Path;
use Cossel\Core\Recipe\PathPoint;
use Cossel\Core\Recipe\Shape;

/** Makes areas of what was seen on a frame: paths and ellipses with margins for feathering; parts ride on the one that carries them. */
abstract class Areas
{
    protected readonly int $height;

    /** @param \Closure(string): string $id a free id that begins with the given letter */
    public function __construct(
        protected readonly FrameSource $source,
        protected readonly int $frame,
        protected readonly Live $live,
        protected readonly \Closure $id,
    ) {
        $this->height = $source->frame()->height;
    }

    /** @param non-empty-list<Shape> $shapes */
    protected function area(string $id, string $name, Part $part, array $shapes, Motion $motion, ?string $doubt = null): Proposal
    {
        $outline = new Outline($this->frame, $shapes);

        $guard = new BlinkGuard();
        $area = new Area($id, $name, $part->value, null, true, $outline, $motion, $this->live, new Keyed(1.0), $guard, []);

        return new Proposal($area, $doubt);
    }

    /**
     * An eye's lids and its iris, kept within them.
     *
     * @param Path|null $otherwise the lids where the picture does not show them
     *
     * @return list<Proposal>
     */
    protected function eye(Eye $eye, string $on, ?Path $otherwise): array
    {
        $side = $eye->left ? 'Left' : 'Right';
        $lids = ($this->id)('a');
        $path = $otherwise ?? ($eye->lids === null ? null : $this->lids($eye));
        if ($path === null) {
            return [];
        }
        $points = $path->points;
        $middle = Landmarks::middle(array_map(static fn(PathPoint $p): array => [$p->x, $p->y], $points));
        $proposed = [$this->area($lids, "{$side} lids", Part::Lids, [$path], self::ride($on, $middle), $eye->doubt)];
        if ($eye->iris !== null) {
            $centre = self::rounded([$eye->iris->x / $this->height, $eye->iris->y / $this->height]);
            $radius = round($eye->iris->radius / $this->height, 6);
            $shapes = [new Ellipse(($this->id)('s'), $centre, [$radius, $radius], 0.0, 0.003, 0.002)];
            // Lids that may be wrong are not to cut it.
            if ($eye->doubt === null || !$eye->round) {
                $shapes[] = new AreaShape(($this->id)('s'), $lids, join: Join::Keep);
            }
            $doubt = $eye->round ? null : $eye->doubt;
            $proposed[] = $this->area(($this->id)('a'), "{$side} iris", Part::Iris, $shapes, self::ride($on, $centre), $doubt);
        }

        return $proposed;
    }

    /** Both lids are cubic between the corners: six points hold them exactly. */
    private function lids(Eye $eye): Path
    {
        $points = [];
        foreach ([[0.0, true], [1 / 3, true], [2 / 3, true], [1.0, true], [2 / 3, false], [1 / 3, false]] as [$t, $upper]) {
            [$x, $y] = $eye->lidAt($t, $upper);
            // Out of a corner the path goes along one lid, into it along the other.
            [$inX, $inY] = $this->along($eye, $t, $t === 1.0 || $t > 0.0 && $upper, $upper && $t > 0.0 ? -1 : 1);
            [$outX, $outY] = $this->along($eye, $t, $upper && $t < 1.0, $upper && $t < 1.0 ? 1 : -1);
            $points[] = $this->shrunk(new PathPoint($x, $y, $inX, $inY, $outX, $outY));
        }

        return new Path(($this->id)('s'), $points, 0.0, 0.004);
    }

    /**
     * A handle along a lid, a third of the way to the point a third further on.
     *
     * @return array{float, float}
     */
    private function along(Eye $eye, float $t, bool $upper, int $way): array
    {
        $e = 1e-3;
        [$x0, $y0] = $eye->lidAt($t - $e, $upper);
        [$x1, $y1] = $eye->lidAt($t + $e, $upper);

        return [$way * ($x1 - $x0) / (2 * $e) / 9, $way * ($y1 - $y0) / (2 * $e) / 9];
    }

    /** From pixels to picture heights. */
    protected function shrunk(PathPoint $p): PathPoint
    {
        return Smooth::rounded($p->moved($this->scaled(1 / $this->height)));
    }

    /**
     * The path drawn to the edge it lies along, where there is one.
     *
     * @param float $reach of the search, pixels
     */
    protected function settled(Path $path, float $reach): Path
    {
        $toPixels = $this->scaled($this->height);
        $pixels = array_map(static fn(PathPoint $p): PathPoint => $p->moved($toPixels), $path->points);
        $settled = PathEdge::settled($this->source, $this->frame, $pixels, max(3, (int) $reach));
        $points = array_map($this->shrunk(...), $settled);

        return new Path($path->id, $points, $path->featherIn, $path->featherOut, $path->grow, $path->opacity, $path->join);
    }

    /**
     * @param array{float, float} $pivot
     * @param list<Channel>       $use
     */
    protected static function ride(string $on, array $pivot, array $use = Motion::WHOLE): Motion
    {
        return new Motion(Motion::RIDE, use: $use, pivot: self::rounded($pivot), on: $on);
    }

    /**
     * @param array{float, float} $pair
     *
     * @return array{float, float}
     */
    protected static function rounded(array $pair): array
    {
        return [round($pair[0], 6), round($pair[1], 6)];
    }

    private function scaled(float $by): Matrix
    {
        return Matrix::of([$by, 0, 0, 0, $by, 0, 0, 0, 1]);
    }
}
