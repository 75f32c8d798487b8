<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Outline\AreaMatte;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Model;

/**
 * Follows a textured region from a start frame, forwards or backwards, frame by frame.
 *
 * Points inside the region (see {@see Features}) are found again in each frame, coarse to fine, by their look
 * (see {@see LucasKanade}); each is checked by going back to the frame before. A look is kept from the start frame as
 * long as it still resembles the picture, renewed when it no longer does, and the first one is taken up again when it
 * fits again: so drift does not build up. On a frame that was set by hand, looks are taken there and held on to from then on. The
 * motion is a robust fit from the start frame's points (see {@see Fit}).
 */
final class RegionFollower implements Follower
{
    private const MOST_POINTS = 80;
    /** Share of the points that must agree, or the region counts as lost. */
    private const LEAST_SHARE = 0.22;
    /** And of the share that agreed of late: something that comes in front takes points away at once, turning by and by. */
    private const USUAL_SHARE = 0.56;
    private const LATELY = 0.15;
    /** Furthest a lost region is looked for, pixels. */
    private const FURTHEST = 200;

    private readonly Rect $region;
    private readonly float $size;
    /** @var list<FollowedPoint> */
    private array $points = [];
    private ?Pyramid $before = null;
    private float $usual = 0.0;

    private function __construct(
        private readonly FrameSource $source,
        private readonly int $start,
        private readonly Model $model,
        private readonly Grey $mask,
        private readonly ?\Closure $byHand,
    ) {
        $this->region = $mask->rect;
        $this->size = sqrt(max(1.0, array_sum($mask->v)));
        $this->before = $this->pyramid($start, Rect::none(), 0);
        $grey = $this->before->levels[0];
        $found = Features::find($grey, $mask->window($grey->rect), max(4.0, $this->size / 15), self::MOST_POINTS);
        foreach ($found as [$x, $y]) {
            $look = PointSearch::look($this->before, $x, $y);
            if ($look[0] !== null) {
                $this->points[] = FollowedPoint::at($x, $y, $look);
            }
        }
    }

    /**
     * @param AreaMatte                                $region where the thing is on the start frame, in the source's pixels; hard-edged
     * @param \Closure(int, Matrix): (Matrix|null)|null $byHand where somebody has set the region on a frame, for the motion found there,
     *                                                         both from the start frame in picture heights; null where nobody has
     *
     * @throws TooLittleTexture when there is not enough to hold on to
     */
    public static function from(FrameSource $source, int $start, AreaMatte $region, Model $model, ?\Closure $byHand = null): self
    {
        $bounds = $region->bounds();
        if ($bounds->isEmpty()) {
            throw TooLittleTexture::outsideThePicture($start);
        }
        $follower = new self($source, $start, $model, $region->matte($bounds), $byHand);
        if (count($follower->points) < 4) {
            throw TooLittleTexture::on($start, count($follower->points));
        }

        return $follower;
    }

    /**
     * Follows towards a frame. Yields each frame's step, stated from the start frame, as soon as it is known; a frame
     * that was lost is yielded again, bridged, once the region is found again.
     *
     * @return \Generator<int, Step>
     */
    public function to(int $last): \Generator
    {
        $direction = $last >= $this->start ? 1 : -1;
        $height = $this->source->frame()->height;
        $now = $earlier = Matrix::identity();
        // From where the region truly is to what the track says, on which corrections by hand go on top.
        $under = Matrix::identity();
        $gap = new Gap($this->start);
        for ($frame = $this->start + $direction; $direction * ($last - $frame) >= 0; $frame += $direction) {
            $missed = $gap->since($frame) > 1;
            [$fit, $confidence] = $this->advance($frame, $now, $missed ? $now : $earlier, $gap);
            $found = $under->times($fit ?? $now)->inPixels(1 / $height);
            $set = $this->byHand === null ? null : ($this->byHand)($frame, $found);
            if ($fit === null && $set === null) {
                yield $frame => new Step($found, State::Lost, 0.0);
                continue;
            }
            $from = $under->times($now)->inPixels(1 / $height);
            yield from $gap->closed($frame, static fn(float $t): Step => new Step(Gap::mixed($from, $found, $t), State::Bridged, 0.0));
            $earlier = $missed || $fit === null ? $fit ?? $now : $now;
            $now = $fit ?? $now;
            yield $frame => $fit === null ? new Step($found, State::Set, 1.0) : new Step($found, State::Followed, $confidence);
            if ($set !== null) {
                $set = $set->inPixels($height);
                $under = $under->times($now)->times($set->inverse());
                $this->anchor($frame, $set);
                $now = $earlier = $set;
            }
        }
    }

    /**
     * Finds the points in a frame and fits the motion.
     *
     * @param Matrix $now     motion to the last good frame
     * @param Matrix $earlier motion to the one before that
     * @param Gap    $gap     since the last good one
     *
     * @return array{Matrix|null, float}
     */
    private function advance(int $frame, Matrix $now, Matrix $earlier, Gap $gap): array
    {
        [$cx, $cy] = [$this->region->x + $this->region->width / 2, $this->region->y + $this->region->height / 2];
        [$x1, $y1] = $now->apply($cx, $cy);
        [$x0, $y0] = $earlier->apply($cx, $cy);
        [$vx, $vy] = [$x1 - $x0, $y1 - $y0];
        $around = $this->where($now);
        $around = $around->union(Rect::of($around->x + (int) round($vx), $around->y + (int) round($vy), $around->width, $around->height));
        $reach = (int) $gap->reach($frame, 0, 30, 12, self::FURTHEST);
        $next = $reach === 0;
        $pyramid = $this->pyramid($frame, $around, 26 + $reach);
        $shift = !$next && $this->before !== null ? Sighting::shift($this->mask, $this->before, $now, $pyramid, $reach) : null;
        $result = ($shift === null ? null : $this->tried($pyramid, $now, $shift[0], $shift[1], $gap->since($frame)))
            ?? $this->tried($pyramid, $now, $vx, $vy, $gap->since($frame));
        if ($result !== null) {
            $this->settle($pyramid, $result[0]);
            $this->before = $pyramid;
        }

        return $result ?? [null, 0.0];
    }

    /**
     * Finds the points, expected where the last motion and a shift take them, and fits the motion.
     *
     * @return array{Matrix, float}|null
     */
    private function tried(Pyramid $pyramid, Matrix $now, float $vx, float $vy, int $gap): ?array
    {
        $linear = $this->linear($now);
        PointSearch::coarse($this->points, $pyramid, $now, $linear, $vx, $vy, $gap);
        foreach ($this->points as $point) {
            if ($point->found) {
                PointSearch::fine($point, $pyramid, $linear, $gap === 1 ? $this->before : null);
            }
        }

        return $this->fit();
    }

    /** @return array{Matrix, float}|null */
    private function fit(): ?array
    {
        $from = $to = $alike = [];
        foreach ($this->points as $point) {
            if ($point->found) {
                $from[] = [$point->fromX, $point->fromY];
                $to[] = [$point->x, $point->y];
                $alike[] = $point->alike;
            }
        }
        $tolerance = max(1.5, 0.07 * $this->size);
        $robust = Fit::robust($this->model, $from, $to, $tolerance);
        if ($robust === null) {
            return null;
        }
        [$motion, $weights] = $robust;
        $sum = array_sum($weights);
        $inliers = count(array_filter($weights, static fn(float $w): bool => $w > 0.2));
        $share = $inliers / count($this->points);
        if (
            $share < self::LEAST_SHARE
            || $share < self::USUAL_SHARE * $this->usual
            || $inliers < 4
            || abs(log(max(1e-6, $motion->scale()))) > 1.6
        ) {
            return null;
        }
        $error = $likeness = 0.0;
        foreach ($from as $i => [$x, $y]) {
            [$u, $v] = $motion->apply($x, $y);
            $error += $weights[$i] * (($u - $to[$i][0]) ** 2 + ($v - $to[$i][1]) ** 2);
            $likeness += $weights[$i] * $alike[$i];
        }
        $confidence = min(1.0, $share / 0.75)
            * max(0.0, min(1.0, ($likeness / $sum - 0.5) / 0.4))
            / (1.0 + $error / $sum / ($tolerance * $tolerance));
        $this->usual += ($share - $this->usual) * ($this->usual === 0.0 ? 1.0 : self::LATELY);

        return [$motion, $confidence];
    }

    /** On a frame that was set by hand, points go where they were put, and their looks there are what is held on to. */
    private function anchor(int $frame, Matrix $motion): void
    {
        $pyramid = $this->pyramid($frame, $this->where($motion), 20);
        foreach ($this->points as $point) {
            [$x, $y] = $motion->apply($point->fromX, $point->fromY);
            $point->set($x, $y, PointSearch::look($pyramid, $x, $y), $this->linear($motion));
        }
        $this->before = $pyramid;
    }

    /** After a fit: points remember where they are; looks that have changed are taken anew. */
    private function settle(Pyramid $pyramid, Matrix $motion): void
    {
        $reach = 0.105 * $this->size;
        foreach ($this->points as $point) {
            [$x, $y] = $motion->apply($point->fromX, $point->fromY);
            $off = hypot($point->x - $x, $point->y - $y);
            if (!$point->found || $off > $reach) {
                $point->found = false;
                unset($point->wasX, $point->wasY);
                continue;
            }
            $point->wasX = $point->x;
            $point->wasY = $point->y;
            if ($point->alike < PointSearch::RENEW) {
                $look = PointSearch::look($pyramid, $point->x, $point->y);
                if ($look[0] !== null) {
                    $point->look = $look;
                    $point->linear = $this->linear($motion);
                    $point->renewed = true;
                }
            }
        }
    }

    /** @return array{float, float, float, float} how the region is turned, scaled and sheared about its middle */
    private function linear(Matrix $motion): array
    {
        [$a, $b, , $c, $d] = $motion->affineAt(
            $this->region->x + $this->region->width / 2,
            $this->region->y + $this->region->height / 2,
        )->m;

        return [$a, $b, $c, $d];
    }

    /** The region's bounds, moved. */
    private function where(Matrix $motion): Rect
    {
        $r = $this->region;
        $xs = $ys = [];
        foreach ([[$r->x, $r->y], [$r->right(), $r->y], [$r->x, $r->bottom()], [$r->right(), $r->bottom()]] as [$x, $y]) {
            [$xs[], $ys[]] = $motion->apply($x, $y);
        }

        return Rect::around(min($xs), min($ys), max($xs), max($ys));
    }

    private function pyramid(int $frame, Rect $around, int $margin): Pyramid
    {
        $whole = $this->source->frame()->grow(16);
        $rect = ($around->isEmpty() ? $this->region : $around)->grow($margin + 12)->intersect($whole);
        if ($rect->isEmpty()) {
            $rect = $this->region->grow(12)->intersect($whole);
        }

        return Pyramid::of($this->source->luma($frame, Pyramid::aligned($rect, PointSearch::LEVELS)), PointSearch::LEVELS);
    }
}
