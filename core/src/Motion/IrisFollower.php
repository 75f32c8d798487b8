<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Outline\AreaMatte;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;

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
    private const LEAST = 0.95;
    /** and so that no better place is looked for. */
    private const SURE = 1.35;

    /** @var array{float, float, float, float} centre, radius, radius of the pupil on the start frame */
    private readonly array $first;
    private readonly IrisLook $look;
    private readonly float $contrast;
    private readonly float $visible;

    private function __construct(private readonly FrameSource $source, private readonly int $start, float $x, float $y, float $radius)
    {
        $planes = $this->window($start, $x, $y, 2.6 * $radius);
        $luma = self::luma($planes);
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
     * @param AreaMatte $region an outline over the iris on the start frame, in the source's pixels
     *
     * @throws TooLittleTexture when there is no round edge near it
     */
    public static function from(FrameSource $source, int $start, AreaMatte $region): self
    {
        $bounds = $region->bounds();
        if ($bounds->isEmpty()) {
            throw TooLittleTexture::outsideThePicture($start);
        }
        $radius = max($bounds->width, $bounds->height) / 2;
        if ($radius < 5) {
            throw TooLittleTexture::noIris($start);
        }

        return new self($source, $start, $bounds->x + $bounds->width / 2, $bounds->y + $bounds->height / 2, $radius);
    }

    /**
     * The iris near a place, wherever between the lids it looks.
     *
     * @param float $reach furthest from the place its centre may be, pixels
     *
     * @return array{float, float, float}|null centre and radius in pixels; null where no round edge is seen
     */
    public static function circle(FrameSource $source, int $frame, float $x, float $y, float $radius, float $reach): ?array
    {
        $far = 2.0 * $radius + $reach;
        $rect = Rect::around($x - $far, $y - $far, $x + $far, $y + $far)->intersect($source->frame());
        if ($radius < 4 || $rect->width < 2 * $radius || $rect->height < $radius) {
            return null;
        }
        $luma = self::luma($source->colour($frame, $rect));
        $best = RoundEdges::about($luma, $x, $y, $radius, $reach, max(0.05, RoundEdges::ringStep($luma, $x, $y, $radius)));

        return $best === null || $best[1] + $best[2] < self::LEAST ? null : array_slice($best[0], 0, 3);
    }

    public function to(int $last): \Generator
    {
        $direction = $last >= $this->start ? 1 : -1;
        yield $this->start => new Step(Matrix::identity(), State::Set, 1.0, null, 1.0);
        $now = $earlier = $this->first;
        $good = $this->start;
        $unseen = [];
        for ($frame = $this->start + $direction; $direction * ($last - $frame) >= 0; $frame += $direction) {
            $gap = abs($frame - $good);
            $guess = $now;
            if ($gap === 1) {
                $guess[0] += $now[0] - $earlier[0];
                $guess[1] += $now[1] - $earlier[1];
            }
            [$found, $confidence, $open] = $this->find($frame, $guess, $now, $gap);
            if ($found === null) {
                yield $frame => new Step($this->motion($now), State::Lost, 0.0, null, $open);
                $unseen[$frame] = $open;
                continue;
            }
            for ($f = $good + $direction; $gap > 1 && $f !== $frame; $f += $direction) {
                $t = ($f - $good) / ($frame - $good);
                $between = array_map(static fn(float $a, float $b): float => $a + ($b - $a) * $t, $now, $found);
                yield $f => new Step($this->motion($between), State::Bridged, 0.0, null, $unseen[$f] ?? 0.0);
            }
            $earlier = $gap === 1 ? $now : $found;
            $now = $found;
            $good = $frame;
            yield $frame => new Step($this->motion($now), State::Followed, $confidence, null, $open);
        }
    }

    /**
     * @param array{float, float, float, float} $guess
     * @param array{float, float, float, float} $last  where it was seen last
     *
     * @return array{array{float, float, float, float}|null, float, float} circles, confidence, openness
     */
    private function find(int $frame, array $guess, array $last, int $gap): array
    {
        $reach = $guess[2] * min(2.0, 1.0 + 0.2 * $gap);
        $planes = $this->window($frame, $guess[0], $guess[1], 2.6 * $guess[2] + $reach);
        if ($planes->rect->width < 2 * $guess[2] || $planes->rect->height < $guess[2]) {
            return [null, 0.0, 1.0];
        }
        $luma = self::luma($planes);
        $map = $this->look->likeness($planes, $guess);
        $best = RoundEdges::near($luma, $map, $guess, 0.3 * $guess[2], 0.14 * $guess[2], $this->contrast);
        if ($best === null || $best[1] + $best[2] < self::SURE) {
            // A glance: the eye can be anywhere in its lids on the very next frame.
            $best = RoundEdges::better($best, RoundEdges::near($luma, $map, [$last[0], $last[1], $guess[2], $guess[3]], $reach, 0.14 * $guess[2], $this->contrast));
        }
        $open = IrisLook::covered($map, $guess);
        if ($best !== null && hypot($best[0][0] - $guess[0], $best[0][1] - $guess[1]) < 0.4 * $guess[2] || $best !== null && $best[1] + $best[2] > self::SURE) {
            $open = max($open, IrisLook::covered($map, $best[0]));
        }
        $open = min(1.0, $open / $this->visible);
        if ($best === null || $best[1] + $best[2] < self::LEAST || $best[1] < self::LEAST_SHARE || abs(log($best[0][2] / $guess[2])) > 0.06 + 0.02 * $gap || $open < self::SHUT) {
            return [null, 0.0, $open];
        }

        return [$best[0], min(1.0, ($best[1] + $best[2]) / 1.6) * min(1.0, $open / 0.6), $open];
    }

    /** @param array{float, float, float, float} $circle */
    private function motion(array $circle): Matrix
    {
        $scale = $circle[2] / $this->first[2];
        $height = $this->source->frame()->height;

        return Matrix::of([$scale, 0, $circle[0] - $scale * $this->first[0], 0, $scale, $circle[1] - $scale * $this->first[1], 0, 0, 1])->inPixels(1 / $height);
    }

    private function window(int $frame, float $x, float $y, float $reach): Planes
    {
        return $this->source->colour($frame, Rect::around($x - $reach, $y - $reach, $x + $reach, $y + $reach)->intersect($this->source->frame()));
    }

    private static function luma(Planes $planes): Grey
    {
        $v = [];
        for ($i = 0, $n = $planes->rect->count(); $i < $n; ++$i) {
            $v[] = 0.2126 * $planes->r[$i] + 0.7152 * $planes->g[$i] + 0.0722 * $planes->b[$i];
        }

        return new Grey($planes->rect, $v);
    }
}
