<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Outline\Pose;
use Cossel\Core\Recipe\Model;
use Cossel\Core\Recipe\Path;
use Cossel\Core\Recipe\PathPoint;

/**
 * Follows each part of a path's edge on its own, for soft things such as lips (see {@see PathEdge}). As the profiles that are looked
 * for are those of the start frame, nothing drifts.
 */
final class OutlineFollower implements Follower
{
    /** Furthest the whole path goes from where it was expected, pixels; */
    private const REACH = 14;
    /** further by so much for each frame it was not seen, */
    private const WIDER = 8;
    /** up to this. */
    private const FURTHEST = 120;
    private const LEAST_SHARE = 0.35;
    /** Of the share that fitted of late: something in front takes most of an edge away at once. */
    private const USUAL_SHARE = 0.6;
    private const LATELY = 0.15;
    /** Mean likeness of the profiles from which a frame counts as surely found. */
    private const ALIKE = 0.9;

    /** @param list<PathPoint> $points the path on the start frame, pixels */
    private function __construct(
        private readonly FrameSource $source,
        private readonly int $start,
        private readonly array $points,
        private readonly PathEdge $edge,
    ) {}

    /**
     * @param Path  $path  as it is stated
     * @param Pose $pose where it is on the start frame
     *
     * @throws TooLittleTexture when nothing differs across its edge
     */
    public static function from(FrameSource $source, int $start, Path $path, Pose $pose): self
    {
        $height = $source->frame()->height;
        $toPixels = Matrix::of([$height, 0, 0, 0, $height, 0, 0, 0, 1])->times($pose->motion);
        $points = array_map(
            static fn(PathPoint $p): PathPoint => $p->moved($toPixels),
            $pose->warp === null ? $path->points : $pose->warp->path($path->points),
        );
        $inside = array_filter(
            $points,
            static fn(PathPoint $p): bool => $p->x > 0 && $p->y > 0 && $p->x < $source->frame()->width && $p->y < $height,
        );
        if (count($inside) < 2) {
            throw TooLittleTexture::outsideThePicture($start);
        }

        return new self($source, $start, $points, new PathEdge($source, $start, $points));
    }

    public function to(int $last): \Generator
    {
        $direction = $last >= $this->start ? 1 : -1;
        yield $this->start => $this->step($this->points, State::Set, 1.0);
        $now = $this->points;
        $speed = [0.0, 0.0];
        $usual = 0.0;
        $gap = new Gap($this->start);
        for ($frame = $this->start + $direction; $direction * ($last - $frame) >= 0; $frame += $direction) {
            $reach = $gap->reach($frame, self::REACH, self::REACH, self::WIDER, self::FURTHEST);
            [$next, $share, $likeness] = $this->edge->find($frame, $now, $speed, $reach);
            if ($share < max(self::LEAST_SHARE, self::USUAL_SHARE * $usual)) {
                $speed = [0.0, 0.0];
                yield $frame => $this->step($now, State::Lost, 0.0);
                continue;
            }
            $since = $gap->since($frame);
            $from = $now;
            yield from $gap->closed($frame, fn(float $t): Step => $this->step(Gap::mixedPath($from, $next, $t), State::Bridged, 0.0));
            $usual += ($share - $usual) * ($usual === 0.0 ? 1.0 : self::LATELY);
            $speed = [self::meanShift($now, $next, 'x') / $since, self::meanShift($now, $next, 'y') / $since];
            $now = $next;
            yield $frame => $this->step($now, State::Followed, $share * min(1.0, $likeness / self::ALIKE));
        }
    }

    /** @param list<PathPoint> $points pixels */
    private function step(array $points, State $state, float $confidence): Step
    {
        $at = static fn(PathPoint $p): array => [$p->x, $p->y];
        $height = $this->source->frame()->height;
        $motion = Fit::least(Model::Similarity, array_map($at, $this->points), array_map($at, $points)) ?? Matrix::identity();
        $unit = Matrix::of([1 / $height, 0, 0, 0, 1 / $height, 0, 0, 0, 1]);

        return new Step(
            $motion->inPixels(1 / $height),
            $state,
            $confidence,
            array_map(static fn(PathPoint $p): PathPoint => $p->moved($unit), $points),
        );
    }

    /**
     * @param list<PathPoint> $from
     * @param list<PathPoint> $to
     */
    private static function meanShift(array $from, array $to, string $axis): float
    {
        return array_sum(array_map(static fn(PathPoint $a, PathPoint $b): float => $b->{$axis} - $a->{$axis}, $from, $to)) / count($from);
    }
}
