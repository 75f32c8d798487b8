<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Geometry\Linear;
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
 * discriminant of R'G'B', learnt on the start frame, both stated against the skin's present mean, so that light may
 * change). Kernel class.
 */
final class IrisFollower implements Follower
{
    /** Half the angle to the left and right in which the edge to the white is looked for, degrees. */
    private const SIDE = 38;
    private const RAYS = 48;
    /** The pupil's edge lies between these shares of the iris' radius. */
    private const PUPIL = [0.22, 0.62];
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
    /** @var array{float, float, float} weights of R'G'B' that tell iris from skin */
    private readonly array $telling;
    private readonly float $limit;
    private readonly float $contrast;
    private readonly float $visible;

    private function __construct(private readonly FrameSource $source, private readonly int $start, float $x, float $y, float $radius)
    {
        $planes = $this->window($start, $x, $y, 2.6 * $radius);
        $luma = self::luma($planes);
        $this->contrast = max(0.02, self::ringStep($luma, $x, $y, $radius));
        $best = self::first($luma, $x, $y, $radius, 0.2 * $radius, $this->contrast);
        if ($best === null || $best[1] < self::LEAST_SHARE) {
            throw TooLittleTexture::noIris($start);
        }
        $this->first = $best[0];
        [$this->telling, $this->limit] = self::learnt($planes, $this->first);
        $this->visible = max(0.2, self::covered($this->likeness($planes, $this->first), $this->first));
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
        $best = self::first($luma, $x, $y, $radius, $reach, max(0.05, self::ringStep($luma, $x, $y, $radius)));

        return $best === null || $best[1] + $best[2] < self::LEAST ? null : array_slice($best[0], 0, 3);
    }

    /**
     * The best fit of several sizes about a place.
     *
     * @return array{array{float, float, float, float}, float, float}|null as {@see fitted} gives it
     */
    private static function first(Grey $luma, float $x, float $y, float $radius, float $reach, float $contrast): ?array
    {
        $best = null;
        foreach ([0.88, 0.94, 1.0, 1.06] as $size) {
            foreach ([0.34, 0.42, 0.5] as $pupil) {
                $best = self::better($best, self::tried($luma, null, [$x, $y, $size * $radius, $pupil * $size * $radius], $reach, 0.12 * $radius, $contrast));
            }
        }

        return $best;
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
        $map = $this->likeness($planes, $guess);
        $best = self::tried($luma, $map, $guess, 0.3 * $guess[2], 0.14 * $guess[2], $this->contrast);
        if ($best === null || $best[1] + $best[2] < self::SURE) {
            // A glance: the eye can be anywhere in its lids on the very next frame.
            $best = self::better($best, self::tried($luma, $map, [$last[0], $last[1], $guess[2], $guess[3]], $reach, 0.14 * $guess[2], $this->contrast));
        }
        $open = self::covered($map, $guess);
        if ($best !== null && hypot($best[0][0] - $guess[0], $best[0][1] - $guess[1]) < 0.4 * $guess[2] || $best !== null && $best[1] + $best[2] > self::SURE) {
            $open = max($open, self::covered($map, $best[0]));
        }
        $open = min(1.0, $open / $this->visible);
        if ($best === null || $best[1] + $best[2] < self::LEAST || $best[1] < self::LEAST_SHARE || abs(log($best[0][2] / $guess[2])) > 0.06 + 0.02 * $gap || $open < self::SHUT) {
            return [null, 0.0, $open];
        }

        return [$best[0], min(1.0, ($best[1] + $best[2]) / 1.6) * min(1.0, $open / 0.6), $open];
    }

    /**
     * The best fit from the likeliest places.
     *
     * @param array{float, float, float, float} $guess
     * @param float                             $reach of the search for places
     * @param float                             $near  and of edges from them
     *
     * @return array{array{float, float, float, float}, float, float}|null as {@see fitted} gives it
     */
    private static function tried(Grey $luma, ?Grey $map, array $guess, float $reach, float $near, float $contrast): ?array
    {
        $best = null;
        foreach (self::searched($luma, $map, $guess, $reach, $contrast) as $place) {
            $best = self::better($best, self::fitted($luma, $place, $near, $contrast));
        }

        return $best;
    }

    /**
     * @param array{array{float, float, float, float}, float, float}|null $a
     * @param array{array{float, float, float, float}, float, float}|null $b
     *
     * @return array{array{float, float, float, float}, float, float}|null the one on which more rays agree
     */
    private static function better(?array $a, ?array $b): ?array
    {
        return $a === null || ($b !== null && $b[1] + $b[2] > $a[1] + $a[2]) ? $b : $a;
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

    /**
     * The places where an iris is likeliest, best first: a step to the white, a step out of the pupil, and pixels that
     * look like iris.
     *
     * @param Grey|null                         $map   1 where a pixel looks like iris
     * @param array{float, float, float, float} $guess
     *
     * @return non-empty-list<array{float, float, float, float}>
     */
    private static function searched(Grey $luma, ?Grey $map, array $guess, float $reach, float $contrast): array
    {
        $step = max(2.0, $reach / 9);
        $scores = $places = [];
        for ($dy = -$reach; $dy <= $reach; $dy += $step) {
            for ($dx = -$reach; $dx <= $reach; $dx += $step) {
                $place = [$guess[0] + $dx, $guess[1] + $dy, $guess[2], $guess[3]];
                $scores[] = min($contrast, self::ringStep($luma, $place[0], $place[1], $place[2])) / $contrast
                    + 0.6 * min($contrast, self::pupilStep($luma, $place[0], $place[1], $place[3])) / $contrast
                    + ($map === null ? 0.0 : 1.5 * self::covered($map, $place))
                    - 0.1 * ($dx * $dx + $dy * $dy) / ($reach * $reach);
                $places[] = $place;
            }
        }
        arsort($scores);
        $found = [];
        foreach (array_keys($scores) as $k) {
            foreach ($found as $other) {
                if (hypot($other[0] - $places[$k][0], $other[1] - $places[$k][1]) < 2.5 * $step) {
                    continue 2;
                }
            }
            $found[] = $places[$k];
            if (count($found) === 3) {
                break;
            }
        }

        return $found;
    }

    /** How much lighter it is just outside a circle than just inside, to the left and right. */
    private static function ringStep(Grey $luma, float $x, float $y, float $radius): float
    {
        $sum = 0.0;
        $count = 0;
        for ($a = -self::SIDE; $a <= self::SIDE; $a += 7.6) {
            foreach ([0.0, 180.0] as $side) {
                $c = cos(deg2rad($a + $side));
                $s = sin(deg2rad($a + $side));
                $sum += self::sample($luma, $x + 1.1 * $radius * $c, $y + 1.1 * $radius * $s) - self::sample($luma, $x + 0.9 * $radius * $c, $y + 0.9 * $radius * $s);
                ++$count;
            }
        }

        return $sum / $count;
    }

    private static function pupilStep(Grey $luma, float $x, float $y, float $radius): float
    {
        $sum = 0.0;
        for ($a = 0; $a < 360; $a += 30) {
            $c = cos(deg2rad($a));
            $s = sin(deg2rad($a));
            $sum += self::sample($luma, $x + 1.3 * $radius * $c, $y + 1.3 * $radius * $s) - self::sample($luma, $x + 0.7 * $radius * $c, $y + 0.7 * $radius * $s);
        }

        return $sum / 12;
    }

    private static function sample(Grey $luma, float $x, float $y): float
    {
        $x -= $luma->rect->x + 0.5;
        $y -= $luma->rect->y + 0.5;
        $w = $luma->rect->width;
        $x = max(0.0, min($w - 1.001, $x));
        $y = max(0.0, min($luma->rect->height - 1.001, $y));
        $ix = (int) $x;
        $iy = (int) $y;
        $fx = $x - $ix;
        $fy = $y - $iy;
        $k = $iy * $w + $ix;

        return (1 - $fy) * ((1 - $fx) * $luma->v[$k] + $fx * $luma->v[$k + 1]) + $fy * ((1 - $fx) * $luma->v[$k + $w] + $fx * $luma->v[$k + $w + 1]);
    }

    /**
     * Both circles by the edges found along rays.
     *
     * @param array{float, float, float, float} $circle first guess
     * @param float                             $reach  to either side of the guess, pixels
     *
     * @return array{array{float, float, float, float}, float, float}|null circles, and the shares of rays to the white and out
     *                                                                of the pupil that agree
     */
    private static function fitted(Grey $luma, array $circle, float $reach, float $contrast): ?array
    {
        $shares = [0.0, 0.0];
        for ($round = 0; $round < 4; ++$round) {
            $edges = [];
            for ($k = 0; $k < self::RAYS; ++$k) {
                $angle = deg2rad(-self::SIDE + 2 * self::SIDE * ($k >> 1) / (self::RAYS / 2 - 1) + ($k & 1) * 180);
                $at = self::edge($luma, $circle, $angle, $circle[2] - $reach, $circle[2] + $reach, 0.25 * $contrast);
                if ($at !== null) {
                    $edges[] = [cos($angle), sin($angle), $at, 0];
                }
                $angle = 2 * M_PI * $k / self::RAYS;
                $at = self::edge($luma, $circle, $angle, max(self::PUPIL[0] * $circle[2], $circle[3] - 0.8 * $reach), min(self::PUPIL[1] * $circle[2], $circle[3] + 0.8 * $reach), 0.12 * $contrast);
                if ($at !== null) {
                    $edges[] = [cos($angle), sin($angle), $at, 1];
                }
            }
            $next = self::solved($edges, $circle, max(1.5, ($round < 2 ? 0.09 : 0.045) * $circle[2]));
            if ($next === null) {
                return null;
            }
            [$circle, $shares] = $next;
            $reach = max(3.0, 0.6 * $reach);
        }

        return [$circle, ...$shares];
    }

    /**
     * Where along a ray it gets lighter outwards most steeply, nearer the middle of the reach rather than at its ends.
     *
     * @param array{float, float, float, float} $circle
     */
    private static function edge(Grey $luma, array $circle, float $angle, float $from, float $to, float $least): ?float
    {
        $c = cos($angle);
        $s = sin($angle);
        $n = (int) (($to - $from) / 0.75);
        $v = [];
        for ($k = -2; $k <= $n + 2; ++$k) {
            $r = $from + 0.75 * $k;
            $v[] = self::sample($luma, $circle[0] + $r * $c, $circle[1] + $r * $s);
        }
        $most = 0.0;
        $at = -1;
        $slopes = [];
        for ($k = 0; $k <= $n; ++$k) {
            $slopes[$k] = $v[$k + 4] + $v[$k + 3] - $v[$k + 1] - $v[$k];
            $off = 2 * $k / max(1, $n) - 1;
            $weighed = $slopes[$k] * (1 - 0.5 * $off * $off);
            if ($weighed > $most) {
                $most = $weighed;
                $at = $k;
            }
        }
        if ($at <= 0 || $at >= $n || $most < 2 * $least) {
            return null;
        }
        $curve = $slopes[$at - 1] - 2 * $slopes[$at] + $slopes[$at + 1];
        $shift = $curve < 0 ? max(-0.5, min(0.5, 0.5 * ($slopes[$at - 1] - $slopes[$at + 1]) / $curve)) : 0.0;

        return $from + 0.75 * ($at + $shift);
    }

    /**
     * Gauss-Newton with Tukey's weights on the misses of edges along their rays; both radii hold a little to what they were.
     *
     * @param list<array{float, float, float, int}> $edges  direction, distance, which circle
     * @param array{float, float, float, float}     $circle
     *
     * @return array{array{float, float, float, float}, array{float, float}}|null circles and the shares that agree
     */
    private static function solved(array $edges, array $circle, float $tolerance): ?array
    {
        $dx = $dy = 0.0;
        $radii = [$circle[2], $circle[3]];
        $agree = [0, 0];
        for ($round = 0; $round < 6; ++$round) {
            $a = array_fill(0, 4, array_fill(0, 4, 0.0));
            $b = array_fill(0, 4, 0.0);
            $agree = [0, 0];
            foreach ($edges as [$c, $s, $at, $which]) {
                $miss = $at - ($radii[$which] + $c * $dx + $s * $dy);
                $e = $miss * $miss / ($tolerance * $tolerance);
                if ($e >= 1) {
                    continue;
                }
                ++$agree[$which];
                $w = (1 - $e) ** 2;
                $row = [$c, $s, $which === 0 ? 1.0 : 0.0, (float) $which];
                for ($i = 0; $i < 4; ++$i) {
                    $b[$i] += $w * $row[$i] * $miss;
                    for ($j = 0; $j < 4; ++$j) {
                        $a[$i][$j] += $w * $row[$i] * $row[$j];
                    }
                }
            }
            foreach ([2, 3] as $i) {
                $a[$i][$i] += 4.0;
                $b[$i] += 4.0 * ($circle[$i] - $radii[$i - 2]);
            }
            $a[0][0] += 0.5;
            $a[1][1] += 0.5;
            $step = Linear::solve($a, $b);
            if ($step === null) {
                return null;
            }
            $dx += $step[0];
            $dy += $step[1];
            $radii[0] += $step[2];
            $radii[1] += $step[3];
        }
        if (hypot($dx, $dy) > $circle[2] || $radii[0] < 3 || $radii[1] < 1) {
            return null;
        }

        return [[$circle[0] + $dx, $circle[1] + $dy, $radii[0], $radii[1]], [$agree[0] / self::RAYS, $agree[1] / self::RAYS]];
    }

    /**
     * What tells the iris from the skin above and below it.
     *
     * @param array{float, float, float, float} $circle
     *
     * @return array{array{float, float, float}, float} weights against the skin's mean, and the limit between the two
     */
    private static function learnt(Planes $planes, array $circle): array
    {
        $skin = self::pixels($planes, $circle, false);
        $iris = self::pixels($planes, $circle, true);
        $telling = Discriminant::between($iris, $skin);
        [$a, $b] = array_map(self::mean(...), [$iris, $skin]);

        return [$telling, 0.5 * ($telling[0] * ($a[0] - $b[0]) + $telling[1] * ($a[1] - $b[1]) + $telling[2] * ($a[2] - $b[2]))];
    }

    /**
     * 1 where a pixel does not look like the skin above and below the eye, 0 where it does.
     *
     * @param array{float, float, float, float} $circle where the eye is
     */
    private function likeness(Planes $planes, array $circle): Grey
    {
        $skin = self::mean(self::pixels($planes, $circle, false));
        [$a, $b, $c] = $this->telling;
        $limit = $this->limit + $a * $skin[0] + $b * $skin[1] + $c * $skin[2];
        $map = [];
        for ($i = 0, $n = $planes->rect->count(); $i < $n; ++$i) {
            $map[] = $a * $planes->r[$i] + $b * $planes->g[$i] + $c * $planes->b[$i] > $limit ? 1.0 : 0.0;
        }

        return new Grey($planes->rect, $map);
    }

    /**
     * Share of the iris' disc, without what lids usually cover, that looks like iris.
     *
     * @param array{float, float, float, float} $circle
     */
    private static function covered(Grey $map, array $circle): float
    {
        $sum = 0.0;
        $count = 0;
        $rect = $map->rect;
        for ($v = -0.6; $v <= 0.6; $v += 0.15) {
            for ($u = -0.75; $u <= 0.75; $u += 0.15) {
                if ($u * $u + $v * $v > 0.7) {
                    continue;
                }
                $x = (int) ($circle[0] + $u * $circle[2]) - $rect->x;
                $y = (int) ($circle[1] + $v * $circle[2]) - $rect->y;
                ++$count;
                if ($x >= 0 && $y >= 0 && $x < $rect->width && $y < $rect->height) {
                    $sum += $map->v[$y * $rect->width + $x];
                }
            }
        }

        return $sum / $count;
    }

    /**
     * Every other pixel of the disc, or of the skin above and below it.
     *
     * @param array{float, float, float, float} $circle
     *
     * @return non-empty-list<array{float, float, float}>
     */
    private static function pixels(Planes $planes, array $circle, bool $inside): array
    {
        [$cx, $cy, $radius] = $circle;
        $rect = $planes->rect;
        $reach = ($inside ? 0.85 : 2.1) * $radius;
        $pixels = [];
        for ($y = max($rect->y, (int) ($cy - $reach)); $y < min($rect->bottom(), $cy + $reach); $y += 2) {
            for ($x = max($rect->x, (int) ($cx - $reach)); $x < min($rect->right(), $cx + $reach); $x += 2) {
                $dx = ($x + 0.5 - $cx) / $radius;
                $dy = ($y + 0.5 - $cy) / $radius;
                $in = $inside
                    ? $dx * $dx + $dy * $dy < 0.72 && abs($dy) < 0.62
                    : abs($dy) > 1.35 && abs($dy) < 2.1 && abs($dx) < 1.1;
                if ($in) {
                    $k = ($y - $rect->y) * $rect->width + $x - $rect->x;
                    $pixels[] = [$planes->r[$k], $planes->g[$k], $planes->b[$k]];
                }
            }
        }

        return $pixels === [] ? [[0.5, 0.4, 0.35]] : $pixels;
    }

    /**
     * @param non-empty-list<array{float, float, float}> $pixels
     *
     * @return array{float, float, float}
     */
    private static function mean(array $pixels): array
    {
        $n = count($pixels);

        return [array_sum(array_column($pixels, 0)) / $n, array_sum(array_column($pixels, 1)) / $n, array_sum(array_column($pixels, 2)) / $n];
    }
}
