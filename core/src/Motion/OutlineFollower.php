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
 * for are those of the start frame, nothing drifts. Where something carries it, as a head does lids and lips, it is looked for where
 * that has taken it, and stays there where it is not seen. Of an opening, as of a mouth, it also tells how far it is open.
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
    /** Share of its area on the start frame from which an opening counts as wholly open. */
    private const OPEN = 0.35;
    /** Mean distance of its points from where they are carried, in sizes of it, from which it is lost. */
    private const STRAY = 0.25;
    /** Under this it is closed, and nothing of its edge to be seen. */
    private const SHUT = 0.2;
    /** Where landmarks tell where it is, the edge is looked for no further than this from there, in sizes of it, and pixels at least; */
    private const BESIDE = 0.06;
    private const CLOSE = 3.0;
    /** and a frame on which the edge is not found there is as sure as this. */
    private const BY_LANDMARKS = 0.6;

    private readonly Beside $beside;

    /** @param list<PathPoint> $points the path on the start frame, pixels */
    private function __construct(
        private readonly FrameSource $source,
        private readonly int $start,
        private readonly array $points,
        private readonly PathEdge $edge,
        private readonly ?Carrier $carrier,
        private readonly ?OpeningLook $opening,
    ) {
        $this->beside = new Beside();
    }

    /**
     * @param Path $path    as it is stated
     * @param Pose $pose    where it is on the start frame
     * @param bool $opening whether what is inside comes and goes with its size
     *
     * @throws TooLittleTexture when nothing differs across its edge
     */
    public static function from(
        FrameSource $source,
        int $start,
        Path $path,
        Pose $pose,
        ?Carrier $carrier = null,
        bool $opening = false,
    ): self {
        $height = $source->frame()->height;
        $toPixels = Matrix::of([$height, 0, 0, 0, $height, 0, 0, 0, 1])->times($pose->motion);
        $points = array_map(
            static fn(PathPoint $p): PathPoint => $p->moved($toPixels),
            $pose->path($path->points),
        );
        $inside = array_filter(
            $points,
            static fn(PathPoint $p): bool => $p->x > 0 && $p->y > 0 && $p->x < $source->frame()->width && $p->y < $height,
        );
        if (count($inside) < 2) {
            throw TooLittleTexture::outsideThePicture($start);
        }
        $look = $opening ? new OpeningLook($source, $start, $points) : null;

        return new self($source, $start, $points, new PathEdge($source, $start, $points), $carrier, $look);
    }

    public function to(int $last): \Generator
    {
        $direction = $last >= $this->start ? 1 : -1;
        yield $this->start => $this->step($this->start, $this->points, State::Set, 1.0);
        $now = $this->points;
        $seen = $this->start;
        $speed = [0.0, 0.0];
        $usual = 0.0;
        $gap = new Gap($this->start);
        for ($frame = $this->start + $direction; $direction * ($last - $frame) >= 0; $frame += $direction) {
            $home = $this->carried($this->points, $this->start, $frame);
            if ($this->carrier !== null && $this->carrier->sees($frame)) {
                $known = $this->known($frame, $home, $now, $seen);
                $next = $this->inPixels($known->points ?? []);
                yield from $this->bridged($gap, $now, $seen, $next, $frame);
                [$now, $seen, $speed] = [$next, $frame, [0.0, 0.0]];
                yield $frame => $known;
                continue;
            }
            // What is carried cannot be far, however long it was not seen.
            $reach = $this->carrier !== null
                ? self::REACH
                : $gap->reach($frame, self::REACH, self::REACH, self::WIDER, self::FURTHEST);
            $guess = $this->carried($now, $seen, $frame);
            [$next, $share, $likeness] = $this->edge->find($frame, $guess, $speed, $reach);
            if ($this->carrier !== null && $gap->since($frame) > 1) {
                // What closed when it was seen last may be open again.
                $again = $this->edge->find($frame, $home, [0.0, 0.0], $reach);
                [$next, $share, $likeness] = $again[1] > $share ? $again : [$next, $share, $likeness];
            }
            $shut = $this->opening !== null && $this->open($frame, $next, State::Followed) < self::SHUT;
            $next = $this->carrier === null ? $next : EdgeSamples::limber($next, $home);
            $held = $this->carrier === null
                || ($this->carrier->holds($frame, $next, $this->source->frame()->height) && !self::strays($next, $home));
            if ($shut || !$held || $share < max(self::LEAST_SHARE, self::USUAL_SHARE * $usual)) {
                $speed = [0.0, 0.0];
                yield $frame => $this->step($frame, $guess, State::Lost, 0.0);
                continue;
            }
            $since = $gap->since($frame);
            yield from $this->bridged($gap, $now, $seen, $next, $frame);
            $usual += ($share - $usual) * ($usual === 0.0 ? 1.0 : self::LATELY);
            // What the carrier does is known; what it does besides goes on as it did.
            $speed = [PathShape::meanShift($guess, $next, 'x') / $since, PathShape::meanShift($guess, $next, 'y') / $since];
            $now = $next;
            $seen = $frame;
            yield $frame => $this->step($frame, $now, State::Followed, $share * min(1.0, $likeness / self::ALIKE));
        }
    }

    /**
     * The frames it was not seen on, laid between where it was seen last and where it is again.
     *
     * @param list<PathPoint> $from   pixels
     * @param int             $before its frame
     * @param list<PathPoint> $to     pixels
     *
     * @return \Generator<int, Step>
     */
    private function bridged(Gap $gap, array $from, int $before, array $to, int $frame): \Generator
    {
        return $gap->closed($frame, fn(float $t, int $f): Step => $this->step(
            $f,
            Gap::mixedPath($this->carried($from, $before, $f), $this->carried($to, $frame, $f), $t),
            State::Bridged,
            0.0,
        ));
    }

    /**
     * The steps with what all frames together tell, where landmarks told where it is.
     *
     * @param array<int, Step> $steps by frame, as they were yielded
     *
     * @return array<int, Step>
     */
    public function settled(array $steps): array
    {
        foreach ($this->beside->settled() as $frame => $numbers) {
            $step = $steps[$frame] ?? null;
            if ($step !== null && $step->state === State::Followed) {
                $steps[$frame] = $this->step($frame, PathShape::points($numbers), $step->state, $step->confidence, $step->open);
            }
        }

        return $steps;
    }

    /**
     * A frame on which landmarks tell where it is: the edge is looked for close to that, and where it is not found they are gone by.
     *
     * @param list<PathPoint> $home   where they put the path of the start frame
     * @param list<PathPoint> $now    the path on the frame before
     * @param int             $before that frame
     */
    private function known(int $frame, array $home, array $now, int $before): Step
    {
        $most = max(self::CLOSE, self::BESIDE * PathShape::size($home));
        $open = $this->carrier?->open($frame);
        if ($open !== null && $open < self::SHUT) {
            $this->beside->add($frame, PathShape::numbers($home), null);

            return $this->step($frame, $home, State::Followed, self::BY_LANDMARKS, $open);
        }
        $guess = PathShape::within($this->carried($now, $before, $frame), $home, $most);
        [$found, $share, $likeness] = $this->edge->find($frame, $guess, [0.0, 0.0], $most);
        $found = EdgeSamples::smooth(EdgeSamples::limber($found, $home), $home);
        $sure = $share * min(1.0, $likeness / self::ALIKE);
        if (PathShape::apart($found, $home) > $most || $share < self::LEAST_SHARE) {
            $this->beside->add($frame, PathShape::numbers($home), null);

            return $this->step($frame, $home, State::Followed, self::BY_LANDMARKS, $open);
        }
        $this->beside->add($frame, PathShape::numbers($home), PathShape::numbers($found));

        return $this->step($frame, $found, State::Followed, max(self::BY_LANDMARKS, $sure), $open);
    }

    /**
     * Where what carries it takes a path.
     *
     * @param list<PathPoint> $points pixels
     *
     * @return list<PathPoint>
     */
    private function carried(array $points, int $from, int $to): array
    {
        return $this->carrier === null ? $points : $this->carrier->moved($points, $from, $to, $this->source->frame()->height);
    }

    /**
     * How far an opening is open, against the start frame.
     *
     * @param list<PathPoint> $points pixels
     */
    private function open(int $frame, array $points, State $state): ?float
    {
        if ($this->opening === null || $state === State::Lost || $state === State::Bridged) {
            return $this->opening === null ? null : 0.0;
        }
        $share = PathShape::area($points) / max(1e-6, PathShape::area($this->points));

        return min(1.0, $share / self::OPEN) * $this->opening->open($frame, $points);
    }

    /**
     * Whether a path is further from where it is carried than soft things go.
     *
     * @param list<PathPoint> $points
     * @param list<PathPoint> $home
     */
    private static function strays(array $points, array $home): bool
    {
        return PathShape::apart($points, $home) > self::STRAY * PathShape::size($home);
    }

    /**
     * @param list<PathPoint> $points pixels
     * @param float|null      $open   how far it is open, where that is known
     */
    private function step(int $frame, array $points, State $state, float $confidence, ?float $open = null): Step
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
            $open ?? $this->open($frame, $points, $state),
        );
    }

    /**
     * @param list<PathPoint> $points picture heights
     *
     * @return list<PathPoint>
     */
    private function inPixels(array $points): array
    {
        $height = $this->source->frame()->height;
        $toPixels = Matrix::of([$height, 0, 0, 0, $height, 0, 0, 0, 1]);

        return array_map(static fn(PathPoint $p): PathPoint => $p->moved($toPixels), $points);
    }
}
