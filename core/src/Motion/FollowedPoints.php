<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Geometry\Relief;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Recipe\Model;

/**
 * The points of a region that are held on to: those of the start frame, and points that are taken anew on the way as the region turns,
 * for when the first have turned out of sight. What is known of the places of these came with the motion then, so they are asked only
 * where the first alone tell nothing.
 *
 * @internal
 */
final class FollowedPoints
{
    private const MOST = 80;
    /** Least distance between points, as a share of the region's size and in pixels. */
    private const APART = 1 / 15;
    private const CLOSEST = 4.0;
    /** Shift of what stands out by 1 after which points are taken anew. */
    private const TURNED = 0.2;
    /** Features looked through for new points, and how exactly a place must be found on the surface, pixels. */
    private const LOOKED_AT = 320;
    private const EXACT = 0.3;

    private readonly Relief $relief;
    /** @var list<FollowedPoint> */
    private array $first = [];
    /** @var array<int, FollowedPoint> by their number among all there ever were */
    private array $later = [];
    private bool $needsLater = false;
    /** @var array{float, float} how depths were shifted when these were taken */
    private array $turned = [0.0, 0.0];
    /** @var list<array{float, float}> where all there ever were are on the start frame, pixels */
    private array $from = [];

    public function __construct(private readonly FollowedRegion $region, private readonly Model $model, Pyramid $start)
    {
        $this->relief = $region->relief($region->view->depth(...));
        $grey = $start->levels[0];
        foreach (Features::find($grey, $region->mask->window($grey->rect), $this->apart(), self::MOST) as [$x, $y]) {
            $look = PointSearch::look($start, $x, $y);
            if ($look[0] !== null) {
                $this->first[] = FollowedPoint::at($x, $y, $this->relief->depth($x, $y), $this->relief->slope($x, $y), $look);
                $this->from[] = [$x, $y];
            }
        }
    }

    /** How many were taken on the start frame. */
    public function count(): int
    {
        return count($this->first);
    }

    /** @return list<array{float, float}> where all there ever were are on the start frame, pixels */
    public function from(): array
    {
        return $this->from;
    }

    /** Back on the start frame. */
    public function begin(): void
    {
        [$this->later, $this->needsLater, $this->turned] = [[], false, [0.0, 0.0]];
        foreach ($this->first as $point) {
            $point->begin();
        }
    }

    /**
     * The motion they tell where the last motion, shifted, is about right.
     *
     * @param Pyramid|null $before the frame before, to check against; null after a gap
     * @param bool         $withLater whether those that were taken on the way count
     */
    public function fit(Pyramid $pyramid, ?Pyramid $before, ReliefMotion $now, float $vx, float $vy, bool $withLater): ?PointFit
    {
        if ($withLater && $this->later === []) {
            return null;
        }
        $expected = $now->then(Matrix::move($vx, $vy));
        $points = $withLater ? [...$this->first, ...$this->later] : $this->first;
        foreach ($points as $point) {
            // What was looked for once already is looked for from the beginning.
            $point->expect($now, $vx, $vy, $before === null || $withLater);
        }
        PointSearch::coarse($points, $pyramid);
        foreach ($points as $point) {
            if ($point->found) {
                PointSearch::fine($point, $pyramid, $before);
            }
        }
        $this->needsLater = $withLater;

        return PointFit::of($points, $expected, $this->model, $this->region->tolerance);
    }

    /**
     * After a fit: points remember where they are; looks that have changed are taken anew.
     *
     * @return array<int, array{float, float}> where those are that were found, by their number
     */
    public function settle(Pyramid $pyramid, ReliefMotion $motion): array
    {
        $reach = 1.5 * $this->region->tolerance;
        $found = [];
        foreach ($this->first + $this->later as $i => $point) {
            [$x, $y] = $point->under($motion);
            $isAsked = $this->needsLater || $i < count($this->first);
            if (!$isAsked || !$point->found || hypot($point->x - $x, $point->y - $y) > $reach) {
                $point->found = false;
                unset($point->wasX, $point->wasY);
                continue;
            }
            $point->wasX = $point->x;
            $point->wasY = $point->y;
            $found[$i] = [$point->x, $point->y];
            if ($point->alike < PointSearch::RENEW) {
                $look = PointSearch::look($pyramid, $point->x, $point->y);
                if ($look[0] !== null) {
                    $point->look = $look;
                    $point->linear = $motion->linear($point->slope);
                    $point->renewed = true;
                }
            }
        }

        return $found;
    }

    /** Points go where they were put by hand, and their looks there are what is held on to. */
    public function set(Pyramid $pyramid, ReliefMotion $motion): void
    {
        foreach ([...$this->first, ...$this->later] as $point) {
            $point->set($motion, PointSearch::look($pyramid, ...$point->under($motion)));
        }
    }

    /** What has turned into sight since points were taken last, or is seen from another side now, is held on to as well. */
    public function takeAnew(Pyramid $pyramid, ReliefMotion $motion): void
    {
        if (hypot($motion->depth[0] - $this->turned[0], $motion->depth[1] - $this->turned[1]) < self::TURNED) {
            return;
        }
        $this->turned = $motion->depth;
        $this->later = $this->needsLater ? array_filter($this->later, static fn(FollowedPoint $p): bool => $p->found) : [];
        $held = array_filter([...$this->first, ...$this->later], static fn(FollowedPoint $p): bool => $p->found && !$p->renewed);
        $grey = $pyramid->levels[0];
        $apart = $this->apart();
        foreach (Features::find($grey, Grey::filled($grey->rect, 1.0), $apart, self::LOOKED_AT) as [$x, $y]) {
            $isHeld = array_filter($held, static fn(FollowedPoint $p): bool => hypot($p->x - $x, $p->y - $y) < $apart) !== [];
            $from = $isHeld || count($held) >= self::MOST ? null : $this->cameFrom($x, $y, $motion);
            $look = $from === null ? [null] : PointSearch::look($pyramid, $x, $y);
            if ($from !== null && $look[0] !== null) {
                $point = FollowedPoint::later($from, $this->relief->depth(...$from), $this->relief->slope(...$from), $motion, $look);
                $held[] = $this->later[count($this->from)] = $point;
                $this->from[] = $from;
            }
        }
    }

    /** @return array{float, float}|null where on the start frame what is seen at a place was, inside the region */
    private function cameFrom(float $x, float $y, ReliefMotion $motion): ?array
    {
        $back = $motion->matrix->inverse();
        [$ox, $oy] = $back->apply(0.0, 0.0);
        [$dx, $dy] = $back->apply(...$motion->depth);
        [$u, $v] = $this->relief->back(...[...$back->apply($x, $y), [$dx - $ox, $dy - $oy]]);
        [$px, $py] = $motion->apply($u, $v, $this->relief->depth($u, $v));

        return $this->region->holds($u, $v) && hypot($px - $x, $py - $y) < self::EXACT ? [$u, $v] : null;
    }

    private function apart(): float
    {
        return max(self::CLOSEST, self::APART * $this->region->size);
    }
}
