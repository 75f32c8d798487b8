<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Outline\AreaMatte;
use Cossel\Core\Picture\Luma;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\PathPoint;

/**
 * Follows an iris by its own round edges: the one to the white of the eye, looked for to the left and right where lids
 * do not reach, and the pupil's. Two circles with one centre are fitted to both, robustly, to a fraction of a pixel
 * (after J. Daugman, "How Iris Recognition Works", IEEE TCSVT 14(1), 2004, whose integro-differential operator finds the
 * first guess).
 *
 * How far the lids are open is told by the share of the iris that does not look like the skin round the eye (linear
 * discriminant, see {@see IrisLook}), learnt on the start frame. Kernel class.
 */
final class IrisFollower implements Follower
{
    /** Openness, against that of the start frame, under which the iris is not looked for. */
    private const SHUT = 0.2;
    /** Share of the rays to the white that must agree, or the iris counts as not seen; */
    private const LEAST_SHARE = 0.3;
    /** of both sets together, */
    private const LEAST = IrisCircle::LEAST;
    /** Furthest from where it was in its head, in radii. */
    private const GLANCE = 1.7;
    /** and so that no better place is looked for. */
    private const SURE = 1.35;
    /** Where landmarks tell where it is: furthest from there it is looked for, in radii, and how sure a frame without its edge is. */
    private const BESIDE = 0.45;
    private const BY_LANDMARKS = 0.5;

    /** @var array{float, float, float, float} centre, radius, radius of the pupil on the start frame */
    private readonly array $first;
    private readonly IrisLook $look;
    private readonly float $contrast;
    private readonly float $visible;

    private readonly Beside $beside;

    private function __construct(
        private readonly FrameSource $source,
        private readonly int $start,
        float $x,
        float $y,
        float $radius,
        private readonly ?Carrier $carrier,
    ) {
        $this->beside = new Beside();
        $planes = $this->window($start, $x, $y, 2.6 * $radius);
        $luma = Luma::of($planes, $planes->rect);
        $this->contrast = max(0.02, RoundEdges::ringStep($luma, $x, $y, $radius));
        $best = RoundEdges::about($luma, $x, $y, $radius, 0.2 * $radius, $this->contrast);
        if ($best === null || $best[1] < self::LEAST_SHARE) {
            throw TooLittleTexture::noIris($start);
        }
        $this->first = $best[0];
        $this->look = IrisLook::learnt($planes, $this->first);
        $this->visible = max(0.2, IrisLook::covered($this->look->likeness($planes, $this->first), $this->first));
    }

    /**
     * @param AreaMatte    $region  an outline over the iris on the start frame, in the source's pixels
     * @param Carrier|null $carrier the head it is in
     *
     * @throws TooLittleTexture when there is no round edge near it
     */
    public static function from(FrameSource $source, int $start, AreaMatte $region, ?Carrier $carrier = null): self
    {
        $bounds = $region->bounds();
        if ($bounds->isEmpty()) {
            throw TooLittleTexture::outsideThePicture($start);
        }
        $radius = max($bounds->width, $bounds->height) / 2;
        if ($radius < 5) {
            throw TooLittleTexture::noIris($start);
        }

        return new self($source, $start, $bounds->x + $bounds->width / 2, $bounds->y + $bounds->height / 2, $radius, $carrier);
    }

    public function to(int $last): \Generator
    {
        $direction = $last >= $this->start ? 1 : -1;
        yield $this->start => new Step(Matrix::identity(), State::Set, 1.0, null, 1.0);
        $now = $earlier = $this->first;
        $seen = $before = $this->start;
        $gap = new Gap($this->start);
        $unseen = [];
        for ($frame = $this->start + $direction; $direction * ($last - $frame) >= 0; $frame += $direction) {
            if ($this->carrier !== null && $this->carrier->sees($frame)) {
                $known = $this->known($frame);
                $found = $this->circle($known->matrix);
                yield from $this->bridged($gap, $now, $seen, $found, $frame, $unseen);
                $now = $earlier = $found;
                $seen = $before = $frame;
                yield $frame => $known;
                continue;
            }
            $missed = $gap->since($frame) > 1;
            $guess = $kept = $this->carried($now, $seen, $frame);
            if (!$missed) {
                // Beside what the head does it goes on as it did.
                $was = $this->carried($earlier, $before, $seen);
                $guess[0] += $now[0] - $was[0];
                $guess[1] += $now[1] - $was[1];
            }
            [$found, $confidence, $open] = $this->find($frame, $guess, $kept, $gap);
            if ($found === null) {
                yield $frame => new Step($this->motion($kept), State::Lost, 0.0, null, $open);
                $unseen[$frame] = $open;
                continue;
            }
            yield from $this->bridged($gap, $now, $seen, $found, $frame, $unseen);
            [$earlier, $before] = $missed ? [$found, $frame] : [$now, $seen];
            [$now, $seen] = [$found, $frame];
            yield $frame => new Step($this->motion($now), State::Followed, $confidence, null, $open);
        }
    }

    /**
     * The frames it was not seen on, laid between where it was seen last and where it is again.
     *
     * @param array{float, float, float, float} $from
     * @param array{float, float, float, float} $to
     * @param array<int, float>                 $open how far the lids were open then
     *
     * @return \Generator<int, Step>
     */
    private function bridged(Gap $gap, array $from, int $before, array $to, int $frame, array $open): \Generator
    {
        return $gap->closed($frame, fn(float $t, int $f): Step => new Step(
            Gap::mixed($this->motion($this->carried($from, $before, $f)), $this->motion($this->carried($to, $frame, $f)), $t),
            State::Bridged,
            0.0,
            null,
            $open[$f] ?? 0.0,
        ));
    }

    /** A frame on which landmarks tell where it is: its edge is looked for close to that, and where it is not found they are gone by. */
    private function known(int $frame): Step
    {
        $open = $this->carrier?->open($frame) ?? 1.0;
        $guess = $this->carried($this->first, $this->start, $frame);
        $found = $open < self::SHUT ? null : $this->edge($frame, $guess);
        $this->beside->add($frame, $guess, $found === null ? null : $found[0]);
        $sure = $found === null ? self::BY_LANDMARKS * max(self::SHUT, $open) : max(self::BY_LANDMARKS, $found[1]) * $open;

        return new Step($this->motion($found[0] ?? $guess), State::Followed, $sure, null, $open);
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
        foreach ($this->beside->settled() as $frame => [$x, $y, $radius, $pupil]) {
            $step = $steps[$frame] ?? null;
            if ($step !== null && $step->state === State::Followed) {
                $steps[$frame] = $step->moved($this->motion([$x, $y, $radius, $pupil]));
            }
        }

        return $steps;
    }

    /**
     * @param array{float, float, float, float} $guess
     *
     * @return array{array{float, float, float, float}, float}|null circles, and how sure; null where no such edge is seen near
     */
    private function edge(int $frame, array $guess): ?array
    {
        $planes = $this->window($frame, $guess[0], $guess[1], (2.6 + self::BESIDE) * $guess[2]);
        if ($planes->rect->width < 2 * $guess[2] || $planes->rect->height < $guess[2]) {
            return null;
        }
        $map = $this->look->likeness($planes, $guess);
        $luma = Luma::of($planes, $planes->rect);
        $best = RoundEdges::near($luma, $map, $guess, self::BESIDE * $guess[2], 0.14 * $guess[2], $this->contrast);
        $isOne = $best !== null && $best[1] >= self::LEAST_SHARE && $best[1] + $best[2] >= self::LEAST
            && hypot($best[0][0] - $guess[0], $best[0][1] - $guess[1]) < self::BESIDE * $guess[2];

        return $isOne ? [$best[0], min(1.0, ($best[1] + $best[2]) / 1.6)] : null;
    }

    /**
     * @param array{float, float, float, float} $guess
     * @param array{float, float, float, float} $last  where it was seen last
     *
     * @return array{array{float, float, float, float}|null, float, float} circles, confidence, openness
     */
    private function find(int $frame, array $guess, array $last, Gap $gap): array
    {
        $reach = $guess[2] * $gap->reach($frame, 1.2, 1.0, 0.2, 2.0);
        $planes = $this->window($frame, $guess[0], $guess[1], 2.6 * $guess[2] + $reach);
        if ($planes->rect->width < 2 * $guess[2] || $planes->rect->height < $guess[2]) {
            return [null, 0.0, 1.0];
        }
        $luma = Luma::of($planes, $planes->rect);
        $map = $this->look->likeness($planes, $guess);
        $best = RoundEdges::near($luma, $map, $guess, 0.3 * $guess[2], 0.14 * $guess[2], $this->contrast);
        if ($best === null || $best[1] + $best[2] < self::SURE) {
            // A glance: the eye can be anywhere in its lids on the very next frame.
            $best = RoundEdges::better(
                $best,
                RoundEdges::near($luma, $map, [$last[0], $last[1], $guess[2], $guess[3]], $reach, 0.14 * $guess[2], $this->contrast),
            );
        }
        $open = IrisLook::covered($map, $guess);
        $beside = $best === null ? INF : hypot($best[0][0] - $guess[0], $best[0][1] - $guess[1]);
        if ($best !== null && ($beside < 0.4 * $guess[2] || $best[1] + $best[2] > self::SURE)) {
            $open = max($open, IrisLook::covered($map, $best[0]));
        }
        $open = min(1.0, $open / $this->visible);
        if (
            $best === null
            || $best[1] + $best[2] < ($gap->since($frame) > 1 ? self::SURE : self::LEAST)
            || $best[1] < self::LEAST_SHARE
            || abs(log($best[0][2] / $guess[2])) > 0.06 + 0.02 * $gap->since($frame)
            || $open < self::SHUT
            || $this->strays($frame, $best[0])
        ) {
            return [null, 0.0, $open];
        }

        return [$best[0], min(1.0, ($best[1] + $best[2]) / 1.6) * min(1.0, $open / 0.6), $open];
    }

    /**
     * Where the head takes a circle.
     *
     * @param array{float, float, float, float} $circle
     *
     * @return array{float, float, float, float}
     */
    private function carried(array $circle, int $from, int $to): array
    {
        if ($this->carrier === null) {
            return $circle;
        }
        $side = new PathPoint($circle[0], $circle[1], 0.0, 0.0, $circle[2], 0.0);
        $moved = $this->carrier->moved([$side], $from, $to, $this->source->frame()->height)[0];
        // A head that turns narrows what is on it, an iris it does not.
        $grown = $this->carrier->sees($to) ? hypot($moved->outX, $moved->outY) / $circle[2] : 1.0;

        return [$moved->x, $moved->y, $grown * $circle[2], $grown * $circle[3]];
    }

    /**
     * Whether a circle is further off in the head than eyes look.
     *
     * @param array{float, float, float, float} $circle
     */
    private function strays(int $frame, array $circle): bool
    {
        [$x, $y] = $this->carried($this->first, $this->start, $frame);

        return (bool) $this->carrier?->carries($frame) && hypot($circle[0] - $x, $circle[1] - $y) > self::GLANCE * $this->first[2];
    }

    /** @return array{float, float, float, float} the circle a motion puts the first one to */
    private function circle(Matrix $motion): array
    {
        $inPixels = $motion->inPixels($this->source->frame()->height);
        $scale = $inPixels->m[0];

        return [...$inPixels->apply($this->first[0], $this->first[1]), $scale * $this->first[2], $scale * $this->first[3]];
    }

    /** @param array{float, float, float, float} $circle */
    private function motion(array $circle): Matrix
    {
        $scale = $circle[2] / $this->first[2];
        $height = $this->source->frame()->height;

        return Matrix::of(
            [$scale, 0, $circle[0] - $scale * $this->first[0], 0, $scale, $circle[1] - $scale * $this->first[1], 0, 0, 1],
        )->inPixels(1 / $height);
    }

    private function window(int $frame, float $x, float $y, float $reach): Planes
    {
        return $this->source->colour(
            $frame,
            Rect::around($x - $reach, $y - $reach, $x + $reach, $y + $reach)->intersect($this->source->frame()),
        );
    }
}
