<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Geometry\Linear;
use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Outline\Contour;
use Cossel\Core\Outline\Place;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Model;
use Cossel\Core\Recipe\Path;
use Cossel\Core\Recipe\PathPoint;

/**
 * Follows each part of a path's edge on its own, for soft things such as lips: an active contour (M. Kass, A. Witkin and
 * D. Terzopoulos, "Snakes", IJCV 1(4), 1988) whose parts look across the edge for the very profile they had on the
 * start frame (T. Cootes, C. Taylor, "Statistical models of appearance", 2004, section 7: search along profiles).
 *
 * The profiles are taken from the one mixture of R'G'B' that best tells what lies just inside the edge from what lies
 * just outside (linear discriminant). First the whole path is moved to where its profiles fit best, then its parts go
 * their own ways, held together by a stiffness. As profiles are those of the start frame, nothing drifts.
 * Kernel class.
 */
final class OutlineFollower implements Follower
{
    /** Edge samples on each Bézier piece. */
    private const PER_PIECE = 5;
    /** A profile reaches this far to either side, pixels. */
    private const ACROSS = 7;
    /** Furthest the whole path goes from where it was expected, pixels. */
    private const REACH = 14;
    /** Furthest a part goes in each round, and how stiffly it holds to its neighbours then. */
    private const ROUNDS = [[6, 12.0], [5, 4.0], [3, 1.6], [2, 1.0]];
    private const LEAST_SHARE = 0.35;
    /** Mean likeness of the profiles from which a frame counts as surely found. */
    private const ALIKE = 0.9;

    /** @var list<PathPoint> the path on the start frame, pixels */
    private readonly array $points;
    /** @var array{float, float, float} */
    private readonly array $telling;
    /** @var list<list<float>> by sample: the profile on the start frame, its mean taken off */
    private readonly array $profiles;
    private readonly float $spread;

    /**
     * @param list<PathPoint> $points
     * @param bool            $plain  look for a plain step instead of the profiles of the start frame
     */
    private function __construct(private readonly FrameSource $source, private readonly int $start, array $points, bool $plain = false)
    {
        $this->points = $points;
        [$xs, $ys] = self::samples($points);
        $planes = $this->window($start, $xs, $ys, self::ACROSS + 3);
        [$nx, $ny] = self::normals($xs, $ys);
        $this->telling = self::learnt($planes, $xs, $ys, $nx, $ny);
        $plane = $this->told($planes);
        $profiles = [];
        $sum = 0.0;
        foreach ($xs as $k => $x) {
            $profiles[] = self::profile($plane, $x, $ys[$k], $nx[$k], $ny[$k]);
        }
        if ($plain) {
            $profiles = array_fill(0, count($profiles), self::stepped($profiles));
        }
        foreach ($profiles as $profile) {
            foreach ($profile as $v) {
                $sum += $v * $v;
            }
        }
        $this->profiles = $profiles;
        $this->spread = $sum / (count($xs) * (2 * self::ACROSS + 1));
        if ($this->spread < 1e-6) {
            throw TooLittleTexture::noEdge($start);
        }
    }

    /**
     * @param Path  $path  as it is stated
     * @param Place $place where it is on the start frame
     *
     * @throws TooLittleTexture when nothing differs across its edge
     */
    public static function from(FrameSource $source, int $start, Path $path, Place $place): self
    {
        $height = $source->frame()->height;
        $toPixels = Matrix::of([$height, 0, 0, 0, $height, 0, 0, 0, 1])->times($place->motion);
        $points = array_map(static fn(PathPoint $p): PathPoint => $p->moved($toPixels), $place->warp === null ? $path->points : $place->warp->path($path->points));
        $inside = array_filter($points, static fn(PathPoint $p): bool => $p->x > 0 && $p->y > 0 && $p->x < $source->frame()->width && $p->y < $height);
        if (count($inside) < 2) {
            throw TooLittleTexture::outsideThePicture($start);
        }

        return new self($source, $start, $points);
    }

    /**
     * A path drawn to the edge it lies along: its parts look across it for a plain step between what lies inside and
     * outside, in the mixture that best tells these apart.
     *
     * @param list<PathPoint> $points pixels
     * @param int             $reach  furthest a part may go in one round, pixels
     *
     * @return list<PathPoint> the same where no edge is seen
     */
    public static function settled(FrameSource $source, int $frame, array $points, int $reach): array
    {
        try {
            $follower = new self($source, $frame, $points, true);
        } catch (TooLittleTexture) {
            return $points;
        }
        [$xs, $ys] = self::samples($points);
        $plane = $follower->told($follower->window($frame, $xs, $ys, self::ACROSS + 2 * $reach));
        [$found] = $follower->parts($plane, $xs, $ys, [[$reach, 4.0], [$reach, 1.5], ...self::ROUNDS]);

        return self::path($points, ...$found);
    }

    public function to(int $last): \Generator
    {
        $direction = $last >= $this->start ? 1 : -1;
        yield $this->start => $this->step($this->points, State::Set, 1.0);
        $now = $this->points;
        $speed = [0.0, 0.0];
        for ($frame = $this->start + $direction; $direction * ($last - $frame) >= 0; $frame += $direction) {
            [$xs, $ys] = self::samples($now);
            $plane = $this->told($this->window($frame, $xs, $ys, self::REACH + self::ACROSS + 8));
            [$found, $share, $likeness] = $this->find($plane, $xs, $ys, $speed);
            if ($share < self::LEAST_SHARE) {
                $speed = [0.0, 0.0];
                yield $frame => $this->step($now, State::Lost, 0.0);
                continue;
            }
            $next = self::path($now, ...$found);
            $speed = [self::meanShift($now, $next, 'x'), self::meanShift($now, $next, 'y')];
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

        return new Step($motion->inPixels(1 / $height), $state, $confidence, array_map(static fn(PathPoint $p): PathPoint => $p->moved($unit), $points));
    }

    /**
     * @param list<float>         $xs
     * @param list<float>         $ys
     * @param array{float, float} $speed
     *
     * @return array{array{list<float>, list<float>}, float, float} as {@see parts} gives it
     */
    private function find(Grey $plane, array $xs, array $ys, array $speed): array
    {
        [$nx, $ny] = self::normals($xs, $ys);
        [$dx, $dy] = $this->whole($plane, $xs, $ys, $nx, $ny, $speed);
        foreach ($xs as $k => $x) {
            $xs[$k] = $x + $dx;
            $ys[$k] += $dy;
        }

        return $this->parts($plane, $xs, $ys, self::ROUNDS);
    }

    /**
     * Each part to where its profile fits best.
     *
     * @param list<float>              $xs
     * @param list<float>              $ys
     * @param list<array{int, float}> $rounds as {@see ROUNDS}
     *
     * @return array{array{list<float>, list<float>}, float, float} where the samples are, the share of them that fit well, and
     *                                                              the mean of how well they all fit
     */
    private function parts(Grey $plane, array $xs, array $ys, array $rounds): array
    {
        $good = 0;
        $likeness = 0.0;
        foreach ($rounds as [$reach, $stiffness]) {
            [$nx, $ny] = self::normals($xs, $ys);
            $shift = $weight = [];
            $good = 0;
            $likeness = 0.0;
            foreach ($xs as $k => $x) {
                [$shift[], $fit] = $this->across($plane, $k, $x, $ys[$k], $nx[$k], $ny[$k], $reach);
                $weight[] = $fit * $fit;
                $good += $fit > 0.5 ? 1 : 0;
                $likeness += $fit;
            }
            [$mx, $my] = self::held($shift, $weight, $nx, $ny, $stiffness);
            foreach ($xs as $k => $x) {
                $xs[$k] = $x + $mx[$k];
                $ys[$k] += $my[$k];
            }
        }

        return [[$xs, $ys], $good / count($xs), $likeness / count($xs)];
    }

    /**
     * The shift of the whole path at which its profiles fit best.
     *
     * @param list<float>         $xs
     * @param list<float>         $ys
     * @param list<float>         $nx
     * @param list<float>         $ny
     * @param array{float, float} $speed
     *
     * @return array{float, float}
     */
    private function whole(Grey $plane, array $xs, array $ys, array $nx, array $ny, array $speed): array
    {
        $best = $speed;
        foreach ([[self::REACH, 4.0, 3], [4.0, 1.0, 2]] as [$reach, $step, $every]) {
            [$cx, $cy] = $best;
            $least = INF;
            for ($dy = -$reach; $dy <= $reach; $dy += $step) {
                for ($dx = -$reach; $dx <= $reach; $dx += $step) {
                    $cost = 0.0;
                    for ($k = 0, $n = count($xs); $k < $n; $k += $every) {
                        $miss = self::miss($this->profiles[$k], self::profile($plane, $xs[$k] + $cx + $dx, $ys[$k] + $cy + $dy, $nx[$k], $ny[$k]));
                        $cost += $miss / ($miss + $this->spread);
                    }
                    $cost *= 1 + 0.001 * ($dx * $dx + $dy * $dy);
                    if ($cost < $least) {
                        $least = $cost;
                        $best = [$cx + $dx, $cy + $dy];
                    }
                }
            }
        }

        return $best;
    }

    /**
     * Where across the edge a sample's profile fits best, and how well: 1 as on the start frame, 0 not at all.
     *
     * @return array{float, float}
     */
    private function across(Grey $plane, int $k, float $x, float $y, float $nx, float $ny, int $reach): array
    {
        $costs = [];
        $line = self::line($plane, $x, $y, $nx, $ny, $reach + self::ACROSS);
        for ($s = -$reach; $s <= $reach; ++$s) {
            $costs[] = self::miss($this->profiles[$k], self::centred($line, $s + $reach)) * (1 + 0.01 * $s * $s);
        }
        $i = (int) array_search(min($costs), $costs, true);
        $shift = (float) ($i - $reach);
        if ($i > 0 && $i < 2 * $reach) {
            $curve = $costs[$i - 1] - 2 * $costs[$i] + $costs[$i + 1];
            $shift += $curve > 0 ? 0.5 * ($costs[$i - 1] - $costs[$i + 1]) / $curve : 0.0;
        }

        return [$shift, max(0.0, 1 - $costs[$i] / (1.2 * $this->spread + 1e-12))];
    }

    /**
     * The shifts of all samples: as measured across the edge, and like their neighbours'. Gauss-Seidel on the normal
     * equations of the sum of w (m - n.d)^2 + stiffness |d - d'|^2.
     *
     * @param list<float> $shift
     * @param list<float> $weight
     * @param list<float> $nx
     * @param list<float> $ny
     *
     * @return array{list<float>, list<float>}
     */
    private static function held(array $shift, array $weight, array $nx, array $ny, float $stiffness): array
    {
        $n = count($shift);
        $mx = $my = array_fill(0, $n, 0.0);
        for ($round = 0; $round < 60; ++$round) {
            for ($k = 0; $k < $n; ++$k) {
                $before = $k === 0 ? $n - 1 : $k - 1;
                $after = $k + 1 === $n ? 0 : $k + 1;
                $w = $weight[$k];
                $a = $nx[$k];
                $b = $ny[$k];
                $px = $stiffness * ($mx[$before] + $mx[$after]) + $w * $a * $shift[$k];
                $py = $stiffness * ($my[$before] + $my[$after]) + $w * $b * $shift[$k];
                $xx = 2 * $stiffness + $w * $a * $a;
                $xy = $w * $a * $b;
                $yy = 2 * $stiffness + $w * $b * $b;
                $det = $xx * $yy - $xy * $xy;
                $mx[$k] = ($px * $yy - $py * $xy) / $det;
                $my[$k] = ($py * $xx - $px * $xy) / $det;
            }
        }

        return [$mx, $my];
    }

    /**
     * The path through moved samples: its points where theirs are, its handles by least squares over each piece.
     *
     * @param list<PathPoint> $points the path before
     * @param list<float>     $xs
     * @param list<float>     $ys
     *
     * @return list<PathPoint>
     */
    private static function path(array $points, array $xs, array $ys): array
    {
        $n = count($points);
        $out = $in = [];
        for ($i = 0; $i < $n; ++$i) {
            $first = $i * self::PER_PIECE;
            $last = ($first + self::PER_PIECE) % count($xs);
            $next = ($i + 1) % $n;
            $straight = $points[$i]->outX === 0.0 && $points[$i]->outY === 0.0 && $points[$next]->inX === 0.0 && $points[$next]->inY === 0.0;
            if ($straight) {
                $out[$i] = $in[$next] = [0.0, 0.0];
                continue;
            }
            $a = [[0.0, 0.0], [0.0, 0.0]];
            $b = [[0.0, 0.0], [0.0, 0.0]];
            for ($k = 1; $k < self::PER_PIECE; ++$k) {
                $t = $k / self::PER_PIECE;
                $s = 1 - $t;
                $rows = [3 * $s * $s * $t, 3 * $s * $t * $t];
                $ends = [$s * $s * $s + $rows[0], $t * $t * $t + $rows[1]];
                $miss = [
                    $xs[$first + $k] - $ends[0] * $xs[$first] - $ends[1] * $xs[$last],
                    $ys[$first + $k] - $ends[0] * $ys[$first] - $ends[1] * $ys[$last],
                ];
                foreach ([0, 1] as $r) {
                    foreach ([0, 1] as $c) {
                        $a[$r][$c] += $rows[$r] * $rows[$c];
                        $b[$c][$r] += $rows[$r] * $miss[$c];
                    }
                }
            }
            $x = Linear::solve($a, $b[0]) ?? [0.0, 0.0];
            $y = Linear::solve($a, $b[1]) ?? [0.0, 0.0];
            $out[$i] = [$x[0], $y[0]];
            $in[$next] = [$x[1], $y[1]];
        }
        $moved = [];
        for ($i = 0; $i < $n; ++$i) {
            $moved[] = new PathPoint($xs[$i * self::PER_PIECE], $ys[$i * self::PER_PIECE], ...$in[$i], ...$out[$i]);
        }

        return $moved;
    }

    /**
     * @param list<PathPoint> $points
     *
     * @return array{list<float>, list<float>}
     */
    private static function samples(array $points): array
    {
        $xs = $ys = [];
        foreach ($points as $i => $p) {
            for ($k = 0; $k < self::PER_PIECE; ++$k) {
                [$xs[], $ys[]] = Contour::on($p, $points[($i + 1) % count($points)], $k / self::PER_PIECE);
            }
        }

        return [$xs, $ys];
    }

    /**
     * Outward normals of a closed run of samples.
     *
     * @param list<float> $xs
     * @param list<float> $ys
     *
     * @return array{list<float>, list<float>}
     */
    private static function normals(array $xs, array $ys): array
    {
        $n = count($xs);
        $area = 0.0;
        $nx = $ny = [];
        for ($k = 0; $k < $n; ++$k) {
            $before = $k === 0 ? $n - 1 : $k - 1;
            $after = $k + 1 === $n ? 0 : $k + 1;
            $area += $xs[$k] * $ys[$after] - $xs[$after] * $ys[$k];
            $tx = $xs[$after] - $xs[$before];
            $ty = $ys[$after] - $ys[$before];
            $length = max(1e-9, sqrt($tx * $tx + $ty * $ty));
            $nx[] = $ty / $length;
            $ny[] = -$tx / $length;
        }
        if ($area < 0) {
            foreach ($nx as $k => $v) {
                $nx[$k] = -$v;
                $ny[$k] = -$ny[$k];
            }
        }

        return [$nx, $ny];
    }

    /**
     * @param list<float> $xs
     * @param list<float> $ys
     */
    private function window(int $frame, array $xs, array $ys, int $more): Planes
    {
        $rect = Rect::around(min($xs) - $more, min($ys) - $more, max($xs) + $more, max($ys) + $more)->intersect($this->source->frame());

        return $this->source->colour($frame, $rect->width < 4 || $rect->height < 4 ? Rect::of(0, 0, 4, 4) : $rect);
    }

    /** The mixture of R'G'B' that the profiles are taken from. */
    private function told(Planes $planes): Grey
    {
        [$a, $b, $c] = $this->telling;
        $v = [];
        for ($i = 0, $n = $planes->rect->count(); $i < $n; ++$i) {
            $v[] = $a * $planes->r[$i] + $b * $planes->g[$i] + $c * $planes->b[$i];
        }

        return new Grey($planes->rect, $v);
    }

    /**
     * @param list<float> $xs
     * @param list<float> $ys
     * @param list<float> $nx
     * @param list<float> $ny
     *
     * @return array{float, float, float} of length 1
     */
    private static function learnt(Planes $planes, array $xs, array $ys, array $nx, array $ny): array
    {
        $sides = [[], []];
        $rect = $planes->rect;
        foreach ($xs as $k => $x) {
            foreach ([-5.0, -3.5, -2.0, 2.0, 3.5, 5.0] as $off) {
                $i = (int) ($x + $off * $nx[$k]) - $rect->x;
                $j = (int) ($ys[$k] + $off * $ny[$k]) - $rect->y;
                if ($i >= 0 && $j >= 0 && $i < $rect->width && $j < $rect->height) {
                    $at = $j * $rect->width + $i;
                    $sides[$off < 0 ? 0 : 1][] = [$planes->r[$at], $planes->g[$at], $planes->b[$at]];
                }
            }
        }

        return Discriminant::between($sides[0], $sides[1]);
    }

    /** @return list<float> values along a line across the edge, from inside to outside, one pixel apart */
    private static function line(Grey $plane, float $x, float $y, float $nx, float $ny, int $reach): array
    {
        $w = $plane->rect->width;
        $right = $w - 1.001;
        $low = $plane->rect->height - 1.001;
        $x -= $plane->rect->x + 0.5 + $reach * $nx;
        $y -= $plane->rect->y + 0.5 + $reach * $ny;
        $line = [];
        for ($k = 2 * $reach; $k >= 0; --$k) {
            $px = $x < 0.0 ? 0.0 : ($x > $right ? $right : $x);
            $py = $y < 0.0 ? 0.0 : ($y > $low ? $low : $y);
            $ix = (int) $px;
            $iy = (int) $py;
            $fx = $px - $ix;
            $fy = $py - $iy;
            $i = $iy * $w + $ix;
            $top = $plane->v[$i] + ($plane->v[$i + 1] - $plane->v[$i]) * $fx;
            $i += $w;
            $line[] = $top + ($plane->v[$i] + ($plane->v[$i + 1] - $plane->v[$i]) * $fx - $top) * $fy;
            $x += $nx;
            $y += $ny;
        }

        return $line;
    }

    /** @return list<float> */
    private static function profile(Grey $plane, float $x, float $y, float $nx, float $ny): array
    {
        return self::centred(self::line($plane, $x, $y, $nx, $ny, self::ACROSS), 0);
    }

    /**
     * A plain step, higher inside, as high as the clearer ones of these profiles: where a path does not lie on its edge
     * yet, its own profile tells little.
     *
     * @param non-empty-list<list<float>> $profiles
     *
     * @return list<float>
     */
    private static function stepped(array $profiles): array
    {
        $heights = array_map(static fn(array $p): float => (array_sum(array_slice($p, 0, self::ACROSS)) - array_sum(array_slice($p, -self::ACROSS))) / self::ACROSS, $profiles);
        sort($heights);
        $half = max(0.01, $heights[(int) (0.8 * count($heights))] / 2);

        return [...array_fill(0, self::ACROSS, $half), 0.0, ...array_fill(0, self::ACROSS, -$half)];
    }

    /**
     * A profile's length of a line, its mean taken off.
     *
     * @param list<float> $line
     *
     * @return list<float>
     */
    private static function centred(array $line, int $from): array
    {
        $n = 2 * self::ACROSS + 1;
        $mean = 0.0;
        for ($i = $from, $end = $from + $n; $i < $end; ++$i) {
            $mean += $line[$i];
        }
        $mean /= $n;
        $out = [];
        for ($i = $from; $i < $end; ++$i) {
            $out[] = $line[$i] - $mean;
        }

        return $out;
    }

    /**
     * Mean squared difference; the middle counts more than the ends.
     *
     * @param list<float> $a
     * @param list<float> $b
     */
    private static function miss(array $a, array $b): float
    {
        $sum = 0.0;
        foreach ($a as $i => $v) {
            $d = $v - $b[$i];
            $sum += $d * $d;
        }

        return $sum / (2 * self::ACROSS + 1);
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
