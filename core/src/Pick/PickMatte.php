<?php

declare(strict_types=1);

namespace Cossel\Core\Pick;

use Cossel\Core\Colour\Transfer;
use Cossel\Core\Picture\AreaPicture;
use Cossel\Core\Picture\Gaussian;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\LabPlanes;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Picture\Robust;
use Cossel\Core\Recipe\Pick;

/**
 * What a pick takes of a picture, 0..1: the product of three ranges in Oklab: hue (degrees, round), chroma, lightness;
 * each is 1 inside and falls by the cubic smoothstep over its softness. A hue says nothing where there is hardly any
 * chroma: under .02 its range counts less and less, down to not at all at 0. Then islands smaller than `specks` go
 * (grey opening by a square of that size), holes smaller than `holes` are filled (closing), the edge is blurred, and
 * last it is inverted.
 */
final readonly class PickMatte
{
    private const COLOURED = 0.02;
    /** Blocks that the lightness of an area is taken from. */
    private const MOST = 400_000;

    public function __construct(private Pick $pick) {}

    /** How far around a pixel it looks, in pixels. */
    public function margin(int $rows): int
    {
        return 2 * self::radius($this->pick->specks, $rows)
            + 2 * self::radius($this->pick->holes, $rows)
            + Gaussian::reach($this->pick->blur * $rows);
    }

    /** Whether it has to see the whole area, to follow its lightness. */
    public function seesArea(): bool
    {
        return $this->pick->follow !== null;
    }

    /**
     * @param Rect       $rect  inside the planes, which reach beyond it by the margin as far as the picture goes
     * @param float|null $light of the area, where the pick follows it, see {@see light}
     */
    public function of(Planes $planes, Rect $rect, int $rows, Transfer $transfer, ?float $light = null): Grey
    {
        $wide = $rect->grow($this->margin($rows))->intersect($planes->rect);
        $shift = $light === null || $this->pick->follow === null ? 0.0 : $light - $this->pick->follow;
        $lab = LabPlanes::of($planes, $wide, $transfer);
        [$least, $most, $soft] = $this->pick->light;
        $v = self::ranges($lab->l, $lab->a, $lab->b, $this->pick->hue, $this->pick->chroma, [$least + $shift, $most + $shift, $soft]);
        foreach ([[$this->pick->specks, false], [$this->pick->holes, true]] as [$size, $most]) {
            $radius = self::radius($size, $rows);
            if ($radius > 0) {
                $v = self::extreme(self::extreme($v, $wide, $radius, $most), $wide, $radius, !$most);
            }
        }
        $v = Gaussian::values($v, $wide->width, $wide->height, $this->pick->blur * $rows);
        if ($this->pick->invert) {
            foreach ($v as $i => $x) {
                $v[$i] = 1.0 - $x;
            }
        }

        return (new Grey($wide, $v))->window($rect);
    }

    /** The robust mean of Oklab L inside an outline, which the pick follows. */
    public static function light(AreaPicture $picture, Transfer $transfer): float
    {
        return Robust::of(LabPlanes::of($picture->planes, $picture->planes->rect, $transfer)->l, $picture->matte->v)[0];
    }

    /** The side of the blocks whose means tell enough of an area's lightness. */
    public static function block(Rect $area): int
    {
        return max(1, (int) ceil(sqrt($area->count() / self::MOST)));
    }

    private static function radius(float $size, int $rows): int
    {
        return (int) round($size * $rows / 2);
    }

    /**
     * @param list<float>                $l
     * @param list<float>                $a
     * @param list<float>                $b
     * @param array{float, float, float} $hue
     * @param array{float, float, float} $chroma
     * @param array{float, float, float} $light
     *
     * @return list<float>
     */
    private static function ranges(array $l, array $a, array $b, array $hue, array $chroma, array $light): array
    {
        [$centre, $width, $softHue] = $hue;
        [$leastC, $mostC, $softC] = $chroma;
        [$leastL, $mostL, $softL] = $light;
        $every = $width >= 360.0;
        $half = $width / 2;
        $softHue = max(1e-6, $softHue);
        $softC = max(1e-6, $softC);
        $softL = max(1e-6, $softL);
        foreach ($l as $i => $x) {
            $d = $x < $leastL ? ($leastL - $x) / $softL : ($x > $mostL ? ($x - $mostL) / $softL : 0.0);
            $k = $d >= 1.0 ? 0.0 : 1.0 - $d * $d * (3.0 - 2.0 * $d);
            if ($k > 0.0) {
                $p = $a[$i];
                $q = $b[$i];
                $c = sqrt($p * $p + $q * $q);
                $d = $c < $leastC ? ($leastC - $c) / $softC : ($c > $mostC ? ($c - $mostC) / $softC : 0.0);
                $k *= $d >= 1.0 ? 0.0 : 1.0 - $d * $d * (3.0 - 2.0 * $d);
                if (!$every && $k > 0.0) {
                    $h = atan2($q, $p) * 57.29577951308232 - $centre;
                    $h -= 360.0 * round($h / 360.0);
                    $d = (abs($h) - $half) / $softHue;
                    $d = $d <= 0.0 ? 0.0 : ($d >= 1.0 ? 1.0 : $d * $d * (3.0 - 2.0 * $d));
                    $k *= 1.0 - $d * ($c >= self::COLOURED ? 1.0 : $c / self::COLOURED);
                }
            }
            $l[$i] = $k;
        }

        return $l;
    }

    /**
     * The greatest or least value in the square round each pixel, first along rows, then along columns.
     *
     * @param list<float> $v
     *
     * @return list<float>
     */
    private static function extreme(array $v, Rect $rect, int $radius, bool $most): array
    {
        return self::along(
            self::along($v, $rect->height, $rect->width, $rect->width, 1, $radius, $most),
            $rect->width,
            $rect->height,
            1,
            $rect->width,
            $radius,
            $most,
        );
    }

    /**
     * The greatest value and where it last stood go along with the window; it is only looked for again when it falls out.
     *
     * @param list<float> $v
     *
     * @return list<float>
     */
    private static function along(array $v, int $lines, int $length, int $lineStep, int $step, int $radius, bool $most): array
    {
        $out = $v;
        $reach = $radius * $step;
        for ($line = 0; $line < $lines; ++$line) {
            $at = $start = $line * $lineStep;
            $end = $start + ($length - 1) * $step;
            $best = $v[$start];
            for ($q = $start + $step, $head = min($end, $start + $reach - $step); $q <= $head; $q += $step) {
                $y = $v[$q];
                if ($most ? $y >= $best : $y <= $best) {
                    $best = $y;
                    $at = $q;
                }
            }
            for ($p = $start; $p <= $end; $p += $step) {
                $q = $p + $reach;
                if ($q <= $end && ($most ? $v[$q] >= $best : $v[$q] <= $best)) {
                    $best = $v[$q];
                    $at = $q;
                } elseif ($at < $p - $reach) {
                    $at += $step;
                    $best = $v[$at];
                    for ($k = $at + $step, $last = min($q, $end); $k <= $last; $k += $step) {
                        $y = $v[$k];
                        if ($most ? $y >= $best : $y <= $best) {
                            $best = $y;
                            $at = $k;
                        }
                    }
                }
                $out[$p] = $best;
            }
        }

        return $out;
    }
}
