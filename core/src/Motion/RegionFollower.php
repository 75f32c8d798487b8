<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Geometry\Relief;
use Cossel\Core\Outline\AreaMatte;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Model;

/**
 * Follows a textured region from a start frame, forwards or backwards, frame by frame.
 *
 * Points inside the region (see {@see Features}) are found again in each frame, coarse to fine, by their look
 * (see {@see LucasKanade}); each is checked by going back to the frame before. A look is kept from the start frame as
 * long as it still resembles the picture, renewed when it no longer does, and the first one is taken up again when it
 * fits again: so drift does not build up. On a frame that was set by hand, looks are taken there and held on to from then on. As the
 * region turns, points are taken anew on the way (see {@see FollowedPoints}).
 *
 * Whatever the model, points are looked for as places of a surface that turns (see {@see Surface} and {@see ReliefMotion}): so their
 * looks are foreshortened as they should be, and what is an outlier is told from what only stands out. A flat motion is a robust fit
 * to the points that were found (see {@see Fit}); a relief is learnt from them once all frames are known.
 */
final class RegionFollower implements Follower
{
    private const LEAST_POINTS = 4;
    /** Share of the points that must agree, or the region counts as lost. */
    private const LEAST_SHARE = 0.22;
    /** And of the share that agreed of late: something that comes in front takes points away at once, turning by and by. */
    private const USUAL_SHARE = 0.56;
    private const LATELY = 0.15;
    /** And of that share on which points may be taken anew: nothing is in front then. */
    private const WELL = 0.75;
    /** Furthest a lost region is looked for, pixels. */
    private const FURTHEST = 200;

    private readonly FollowedPoints $points;
    private Pyramid $before;
    private float $usual = 0.0;
    /** @var array<int, array<int, array{float, float}>> by frame and point, pixels */
    private array $found = [];
    /** @var array<int, ReliefMotion> by frame, pixels; what was found, without what was set by hand */
    private array $motions = [];
    /** @var array<int, Matrix> from where the region truly is to what the track says, by frame */
    private array $under = [];

    private function __construct(
        private readonly FrameSource $source,
        private readonly int $start,
        private readonly Model $model,
        private readonly FollowedRegion $region,
        private readonly ?\Closure $byHand,
    ) {
        $this->before = $this->pyramid($start, Rect::none(), 0);
        $this->points = new FollowedPoints($region, $model, $this->before);
    }

    /**
     * @param AreaMatte                                $region where the thing is on the start frame, in the source's pixels; hard-edged
     * @param SurfaceView|null                         $view   what it is taken for; a head that fills the region when left out
     * @param \Closure(int, Matrix): (Matrix|null)|null $byHand where somebody has set the region on a frame, for the motion found there,
     *                                                         both from the start frame in picture heights; null where nobody has
     *
     * @throws TooLittleTexture when there is not enough to hold on to
     */
    public static function from(
        FrameSource $source,
        int $start,
        AreaMatte $region,
        Model $model,
        ?SurfaceView $view = null,
        ?\Closure $byHand = null,
    ): self {
        $bounds = $region->bounds();
        if ($bounds->isEmpty()) {
            throw TooLittleTexture::outsideThePicture($start);
        }
        $view ??= SurfaceView::in(Surface::head(), $bounds->x, $bounds->y, $bounds->width, $bounds->height);
        $follower = new self($source, $start, $model, new FollowedRegion($region->matte($bounds), $view), $byHand);
        if ($follower->points->count() < self::LEAST_POINTS) {
            throw TooLittleTexture::on($start, $follower->points->count());
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
        $this->before = $this->pyramid($this->start, Rect::none(), 0);
        $this->usual = 0.0;
        $this->points->begin();
        $now = $earlier = ReliefMotion::still();
        $flat = Matrix::identity();
        // From where the region truly is to what the track says, on which corrections by hand go on top.
        $under = Matrix::identity();
        $gap = new Gap($this->start);
        for ($frame = $this->start + $direction; $direction * ($last - $frame) >= 0; $frame += $direction) {
            $missed = $gap->since($frame) > 1;
            $from = $under->times($flat)->inPixels(1 / $height);
            $fit = $this->advance($frame, $now, $missed ? $now : $earlier, $gap);
            $flat = $fit->flat ?? $flat;
            $found = $under->times($flat)->inPixels(1 / $height);
            $set = $this->byHand === null ? null : ($this->byHand)($frame, $found);
            if ($fit === null && $set === null) {
                yield $frame => new Step($found, State::Lost, 0.0);
                continue;
            }
            yield from $gap->closed($frame, static fn(float $t): Step => new Step(Gap::mixed($from, $found, $t), State::Bridged, 0.0));
            $earlier = $missed || $fit === null ? $fit->motion ?? $now : $now;
            $now = $fit->motion ?? $now;
            if ($fit !== null) {
                [$this->motions[$frame], $this->under[$frame]] = [$fit->motion, $under];
            }
            yield $frame => $fit === null ? new Step($found, State::Set, 1.0) : new Step($found, State::Followed, $fit->confidence);
            if ($set !== null) {
                $set = $set->inPixels($height);
                $now = $earlier = $now->then($set->times($flat->inverse()));
                $under = $under->times($flat)->times($set->inverse());
                $flat = $set;
                $this->anchor($frame, $now);
            }
        }
    }

    /**
     * The steps as all frames together tell them, once they are known both ways: of a relief over what was learnt of it; and where
     * the region was not seen laid smoothly between.
     *
     * @param array<int, Step> $steps as they were yielded
     *
     * @return array{array<int, Step>, Relief|null} in picture heights
     */
    public function learnt(array $steps): array
    {
        if ($this->model !== Model::Relief || $this->motions === []) {
            return [Bridge::smooth($steps), null];
        }
        $height = $this->source->frame()->height;
        $region = $this->region;
        [$field, $motions] = ReliefLearner::learn(
            $region->view,
            $this->points->from(),
            $this->found,
            $this->motions,
            $region->middle(),
            $region->tolerance,
        );
        $said = [$this->start => ReliefMotion::still()];
        foreach ($motions as $frame => $motion) {
            $said[$frame] = $motion->then($this->under[$frame])->inPixels(1 / $height);
        }
        foreach ($steps as $frame => $step) {
            $motion = self::between($said, $frame);
            $steps[$frame] = $step->moved($motion->matrix, $motion->depth);
        }

        return [Bridge::smooth($steps), $this->region->relief($field->depth(...))->scaled(1 / $height)];
    }

    /**
     * A frame on which nothing was found is between those on which something was.
     *
     * @param non-empty-array<int, ReliefMotion> $known
     */
    private static function between(array $known, int $frame): ReliefMotion
    {
        $after = array_filter(array_keys($known), static fn(int $f): bool => $f >= $frame);
        $before = array_filter(array_keys($known), static fn(int $f): bool => $f <= $frame);
        if ($after === [] || $before === []) {
            return $known[$after === [] ? max($before) : min($after)];
        }
        [$from, $to] = [max($before), min($after)];

        return $from === $to ? $known[$from] : $known[$from]->mixed($known[$to], ($frame - $from) / ($to - $from));
    }

    /**
     * Finds the points in a frame and fits the motion.
     *
     * @param ReliefMotion $now     motion to the last good frame
     * @param ReliefMotion $earlier motion to the one before that
     * @param Gap          $gap     since the last good one
     */
    private function advance(int $frame, ReliefMotion $now, ReliefMotion $earlier, Gap $gap): ?PointFit
    {
        [$x1, $y1] = $this->region->moved($now);
        [$x0, $y0] = $this->region->moved($earlier);
        [$vx, $vy] = [$x1 - $x0, $y1 - $y0];
        $around = $this->region->where($now);
        $around = $around->union(Rect::of($around->x + (int) round($vx), $around->y + (int) round($vy), $around->width, $around->height));
        $reach = (int) $gap->reach($frame, 0, 30, 12, self::FURTHEST);
        $next = $reach === 0;
        $pyramid = $this->pyramid($frame, $around, 26 + $reach);
        $shift = $next ? null : Sighting::shift($this->region->mask, $this->before, $this->region->flat($now), $pyramid, $reach);
        $result = ($shift === null ? null : $this->tried($pyramid, $now, $shift[0], $shift[1], $gap->since($frame)))
            ?? $this->tried($pyramid, $now, $vx, $vy, $gap->since($frame));
        if ($result !== null) {
            $this->found[$frame] = $this->points->settle($pyramid, $result->motion);
            $this->before = $pyramid;
            if ($result->share > self::WELL * $this->usual) {
                $this->points->takeAnew($pyramid, $result->motion);
            }
        }

        return $result;
    }

    /**
     * Finds the points, expected where the last motion and a shift take them, and fits the motion.
     */
    private function tried(Pyramid $pyramid, ReliefMotion $now, float $vx, float $vy, int $gap): ?PointFit
    {
        $before = $gap === 1 ? $this->before : null;
        $least = max(self::LEAST_SHARE, self::USUAL_SHARE * $this->usual);
        foreach ([false, true] as $withLater) {
            $fit = $this->points->fit($pyramid, $before, $now, $vx, $vy, $withLater);
            if ($fit !== null && $fit->share >= $least) {
                $this->usual += ($fit->share - $this->usual) * ($this->usual === 0.0 ? 1.0 : self::LATELY);

                return $fit;
            }
            // A model that fails for once on what was found is not helped by more points.
            if ($fit === null) {
                return null;
            }
        }

        return null;
    }

    /** On a frame that was set by hand, points go where they were put, and their looks there are what is held on to. */
    private function anchor(int $frame, ReliefMotion $motion): void
    {
        $pyramid = $this->pyramid($frame, $this->region->where($motion), 20);
        $this->points->set($pyramid, $motion);
        $this->before = $pyramid;
    }

    private function pyramid(int $frame, Rect $around, int $margin): Pyramid
    {
        $whole = $this->source->frame()->grow(16);
        $rect = ($around->isEmpty() ? $this->region->mask->rect : $around)->grow($margin + 12)->intersect($whole);
        if ($rect->isEmpty()) {
            $rect = $this->region->mask->rect->grow(12)->intersect($whole);
        }

        return Pyramid::of($this->source->luma($frame, Pyramid::aligned($rect, PointSearch::LEVELS)), PointSearch::LEVELS);
    }
}
