<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\PathPoint;

/**
 * The edge a path lies along, as it looks on one frame, and the finding of it on others: an active contour (M. Kass,
 * A. Witkin and D. Terzopoulos, "Snakes", IJCV 1(4), 1988) whose parts look across the edge for the very profile they had
 * (T. Cootes, C. Taylor, "Statistical models of appearance", 2004, section 7: search along profiles).
 *
 * The profiles are taken from the one mixture of R'G'B' that best tells what lies just inside the edge from what lies
 * just outside (linear discriminant). First the whole path is moved to where its profiles fit best, then its parts go
 * their own ways, held together by a stiffness. Kernel class.
 */
final class PathEdge
{
    /** Furthest a part goes in each round, and how stiffly it holds to its neighbours then. */
    private const ROUNDS = [[6, 12.0], [5, 4.0], [3, 1.6], [2, 1.0]];
    /** What the furthest place costs more than the expected one. */
    private const NEARER = 0.196;

    /** @var array{float, float, float} */
    private readonly array $telling;
    /** @var list<list<float>> by sample: the profile, its mean taken off */
    private readonly array $profiles;
    private readonly float $spread;

    /**
     * @param list<PathPoint> $points pixels
     * @param bool            $plain  look for a plain step instead of the profiles of the frame
     *
     * @throws TooLittleTexture when nothing differs across it
     */
    public function __construct(private readonly FrameSource $source, int $frame, array $points, bool $plain = false)
    {
        [$xs, $ys] = EdgeSamples::samples($points);
        $planes = $this->window($frame, $xs, $ys, EdgeProfile::ACROSS + 3);
        [$nx, $ny] = EdgeSamples::normals($xs, $ys);
        $this->telling = self::learnt($planes, $xs, $ys, $nx, $ny);
        $plane = $this->told($planes);
        $profiles = [];
        $sum = 0.0;
        foreach ($xs as $k => $x) {
            $profiles[] = EdgeProfile::of($plane, $x, $ys[$k], $nx[$k], $ny[$k]);
        }
        if ($plain) {
            $profiles = array_fill(0, count($profiles), EdgeProfile::stepped($profiles));
        }
        foreach ($profiles as $profile) {
            foreach ($profile as $v) {
                $sum += $v * $v;
            }
        }
        $this->profiles = $profiles;
        $this->spread = $sum / (count($xs) * (2 * EdgeProfile::ACROSS + 1));
        if ($this->spread < 1e-6) {
            throw TooLittleTexture::noEdge($frame);
        }
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
            $edge = new self($source, $frame, $points, true);
        } catch (TooLittleTexture) {
            return $points;
        }
        [$xs, $ys] = EdgeSamples::samples($points);
        $plane = $edge->told($edge->window($frame, $xs, $ys, EdgeProfile::ACROSS + 2 * $reach));
        [$found] = $edge->parts($plane, $xs, $ys, [[$reach, 4.0], [$reach, 1.5], ...self::ROUNDS]);

        return EdgeSamples::path($points, ...$found);
    }

    /**
     * Where the edge is on a frame: the whole path first, then its parts.
     *
     * @param list<PathPoint>     $points where it was, pixels
     * @param array{float, float} $speed  how far from there it is expected
     * @param float               $reach  and how far from that it may be at most, pixels
     *
     * @return array{list<PathPoint>, float, float} the path, the share of its samples that fit well, and the mean of how well
     *                                              they all fit
     */
    public function find(int $frame, array $points, array $speed, float $reach): array
    {
        [$xs, $ys] = EdgeSamples::samples($points);
        $plane = $this->told($this->window($frame, $xs, $ys, (int) ceil($reach) + EdgeProfile::ACROSS + 8));
        [$nx, $ny] = EdgeSamples::normals($xs, $ys);
        [$dx, $dy] = $this->whole($plane, $xs, $ys, $nx, $ny, $speed, $reach);
        foreach ($xs as $k => $x) {
            $xs[$k] = $x + $dx;
            $ys[$k] += $dy;
        }
        [$found, $share, $likeness] = $this->parts($plane, $xs, $ys, self::ROUNDS);

        return [EdgeSamples::path($points, ...$found), $share, $likeness];
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
            [$nx, $ny] = EdgeSamples::normals($xs, $ys);
            $shift = $weight = [];
            $good = 0;
            $likeness = 0.0;
            foreach ($xs as $k => $x) {
                [$shift[], $fit] = $this->across($plane, $k, $x, $ys[$k], $nx[$k], $ny[$k], $reach);
                $weight[] = $fit * $fit;
                $good += $fit > 0.5 ? 1 : 0;
                $likeness += $fit;
            }
            [$mx, $my] = EdgeSamples::held($shift, $weight, $nx, $ny, $stiffness);
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
     * @param array{float, float} $speed where it is expected
     * @param float               $reach furthest it is looked for from there
     *
     * @return array{float, float}
     */
    private function whole(Grey $plane, array $xs, array $ys, array $nx, array $ny, array $speed, float $reach): array
    {
        $best = $speed;
        foreach ([[$reach, 4.0, 3], [4.0, 1.0, 2]] as [$far, $step, $every]) {
            [$cx, $cy] = $best;
            $least = INF;
            for ($dy = -$far; $dy <= $far; $dy += $step) {
                for ($dx = -$far; $dx <= $far; $dx += $step) {
                    $cost = 0.0;
                    for ($k = 0, $n = count($xs); $k < $n; $k += $every) {
                        $miss = EdgeProfile::miss(
                            $this->profiles[$k],
                            EdgeProfile::of($plane, $xs[$k] + $cx + $dx, $ys[$k] + $cy + $dy, $nx[$k], $ny[$k]),
                        );
                        $cost += $miss / ($miss + $this->spread);
                    }
                    $cost *= 1 + self::NEARER * ($dx * $dx + $dy * $dy) / ($reach * $reach);
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
        $line = EdgeProfile::line($plane, $x, $y, $nx, $ny, $reach + EdgeProfile::ACROSS);
        for ($s = -$reach; $s <= $reach; ++$s) {
            $costs[] = EdgeProfile::miss($this->profiles[$k], EdgeProfile::centred($line, $s + $reach)) * (1 + 0.01 * $s * $s);
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
}
