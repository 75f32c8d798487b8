<?php

declare(strict_types=1);

namespace Cossel\Core\Propose;

use Cossel\Core\Motion\Discriminant;
use Cossel\Core\Motion\EdgeSamples;
use Cossel\Core\Motion\FrameSource;
use Cossel\Core\Motion\PathEdge;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\PathPoint;

/**
 * The lips' outline brought to the picture as a whole: shifted, turned, made wider and higher until what lies just inside differs most
 * from what lies just outside, in the mixtures of R'G'B' that best tell lips from skin, one for each lip. Parts of it then go their own
 * ways (see {@see \Cossel\Core\Motion\PathEdge}). Kernel class; pixels.
 */
final class Lips
{
    /** What lies just inside and outside, in shares of the mouth's width. */
    private const ACROSS = [0.02, 0.05, 0.08];
    /** Ring of skin the lips are told from, in shares of the mouth's width beyond the outline. */
    private const SKIN = [0.12, 0.2];
    /** How far it is likely to be off, in shares of the mouth's width, of its sizes, and radians. */
    private const LIKELY = [0.12, 0.12, 0.15, 0.25, 0.15];
    private const HOLDING = 0.06;
    /** Furthest a part goes in each round then, and from where the landmarks are, in shares of the mouth's width. */
    private const NEAR = 0.04;
    private const FAR = 0.09;

    private function __construct() {}

    /**
     * @param list<PathPoint> $points as the landmarks say
     *
     * @return array{list<PathPoint>, float} where it is, and by how many spreads of the skin lips differ from skin
     */
    public static function found(FrameSource $source, int $frame, array $points): array
    {
        [$xs, $ys] = EdgeSamples::samples($points);
        $width = max($xs) - min($xs);
        $more = 0.45 * $width;
        $rect = Rect::around(min($xs) - $more, min($ys) - $more, max($xs) + $more, max($ys) + $more)->intersect($source->frame());
        if ($rect->width < 8 || $rect->height < 8) {
            return [$points, 0.0];
        }
        $planes = $source->colour($frame, $rect);
        $centre = [array_sum($xs) / count($xs), array_sum($ys) / count($ys)];
        $fit = [0.0, 0.0, 0.0, 0.0, 0.0];
        // What tells lips from skin is learnt where they are thought to be, then where they were found.
        for ($round = 0; $round < 2; ++$round) {
            [$mx, $my] = self::moved($xs, $ys, $centre, $width, $fit);
            $told = self::told($planes, $mx, $my, $width);
            $fit = self::fitted($told, $xs, $ys, $centre, $width, $fit);
        }
        [$mx, $my] = self::moved($xs, $ys, $centre, $width, $fit);
        $moved = EdgeSamples::path($points, $mx, $my);
        $told = self::told($planes, $mx, $my, $width);
        $best = [-INF, $moved];
        foreach ([[$moved, self::NEAR], [$points, self::FAR]] as [$path, $reach]) {
            $settled = PathEdge::settled($source, $frame, $path, max(3, (int) ($reach * $width)));
            $worth = self::worth($told, ...[...EdgeSamples::samples($settled), $width]);
            if ($worth > $best[0]) {
                $best = [$worth, $settled];
            }
        }
        [$mx, $my] = EdgeSamples::samples($best[1]);

        return [$best[1], self::apart($planes, $mx, $my, $width)];
    }

    /**
     * By how many spreads of the skin round it the lips differ from it.
     *
     * @param list<float> $xs
     * @param list<float> $ys
     */
    private static function apart(Planes $planes, array $xs, array $ys, float $width): float
    {
        $apart = 0.0;
        foreach ([true, false] as $upper) {
            [$lips, $skin] = self::sides($planes, $xs, $ys, $width, $upper);
            [$a, $b, $c] = Discriminant::between($lips, $skin);
            $mix = static fn(array $p): float => $a * $p[0] + $b * $p[1] + $c * $p[2];
            [$inside, $outside] = [array_map($mix, $lips), array_map($mix, $skin)];
            if ($inside === [] || $outside === []) {
                return 0.0;
            }
            sort($inside);
            sort($outside);
            $at = static fn(array $v, float $share): float => $v[(int) ($share * (count($v) - 1))];
            $spread = ($at($inside, 0.84) - $at($inside, 0.16) + $at($outside, 0.84) - $at($outside, 0.16)) / 4;
            $apart += ($at($inside, 0.5) - $at($outside, 0.5)) / max(0.005, $spread) / 2;
        }

        return $apart;
    }

    /**
     * Samples moved: shift, width, height, turn.
     *
     * @param list<float>         $xs
     * @param list<float>         $ys
     * @param array{float, float} $centre
     * @param list<float>         $fit
     *
     * @return array{list<float>, list<float>}
     */
    private static function moved(array $xs, array $ys, array $centre, float $width, array $fit): array
    {
        [$dx, $dy, $wide, $high, $turn] = $fit;
        $cos = cos($turn);
        $sin = sin($turn);
        $wide = exp($wide);
        $high = exp($high);
        foreach ($xs as $k => $x) {
            $u = $wide * ($x - $centre[0]);
            $v = $high * ($ys[$k] - $centre[1]);
            $xs[$k] = $centre[0] + $dx * $width + $cos * $u - $sin * $v;
            $ys[$k] = $centre[1] + $dy * $width + $sin * $u + $cos * $v;
        }

        return [$xs, $ys];
    }

    /**
     * @param array{Grey, Grey}   $told of the upper and the lower lip
     * @param list<float>         $xs
     * @param list<float>         $ys
     * @param array{float, float} $centre
     * @param list<float>         $fit
     *
     * @return list<float>
     */
    private static function fitted(array $told, array $xs, array $ys, array $centre, float $width, array $fit): array
    {
        $worth = static fn(array $fit): float => self::worth($told, ...[...self::moved($xs, $ys, $centre, $width, $fit), $width])
            - self::HOLDING * array_sum(array_map(static fn(float $v, float $likely): float => ($v / $likely) ** 2, $fit, self::LIKELY));
        $gain = $worth($fit);
        for ($step = 0.08; $step > 0.004; $step /= 2) {
            do {
                $before = $gain;
                foreach (array_keys($fit) as $i) {
                    foreach ([$step, -$step] as $by) {
                        $other = $fit;
                        $other[$i] += $by;
                        $now = $worth($other);
                        if ($now > $gain) {
                            [$fit, $gain] = [$other, $now];
                        }
                    }
                }
            } while ($gain > $before + 1e-6);
        }

        return $fit;
    }

    /**
     * How much more like lips it is just inside than just outside, in what lips and skin differ by: 1 where the outline is right.
     *
     * @param array{Grey, Grey} $told
     * @param list<float>       $xs
     * @param list<float>       $ys
     */
    private static function worth(array $told, array $xs, array $ys, float $width): float
    {
        [$nx, $ny] = EdgeSamples::normals($xs, $ys);
        $sum = 0.0;
        foreach ($xs as $k => $x) {
            $y = $ys[$k];
            // The outward way of the upper lip is up.
            $plane = $told[$ny[$k] < 0 ? 0 : 1];
            foreach (self::ACROSS as $share) {
                $off = $share * $width;
                $inside = $plane->between($x - $off * $nx[$k], $y - $off * $ny[$k]);
                $sum += $inside - $plane->between($x + $off * $nx[$k], $y + $off * $ny[$k]);
            }
        }

        return $sum / (count($xs) * count(self::ACROSS));
    }

    /**
     * 0 as the skin, 1 as the lips, in the mixture that tells them best; of each lip.
     *
     * @param list<float> $xs
     * @param list<float> $ys
     *
     * @return array{Grey, Grey}
     */
    private static function told(Planes $planes, array $xs, array $ys, float $width): array
    {
        $told = [];
        foreach ([true, false] as $upper) {
            [$lips, $skin] = self::sides($planes, $xs, $ys, $width, $upper);
            [$a, $b, $c] = Discriminant::between($lips, $skin);
            $mix = static fn(array $p): float => $a * $p[0] + $b * $p[1] + $c * $p[2];
            $mean = static fn(array $set): float => array_sum(array_map($mix, $set)) / max(1, count($set));
            $low = $mean($skin);
            $scale = 1 / max(0.01, $mean($lips) - $low);
            $v = [];
            for ($i = 0, $n = $planes->rect->count(); $i < $n; ++$i) {
                $v[] = max(-0.5, min(1.5, ($a * $planes->r[$i] + $b * $planes->g[$i] + $c * $planes->b[$i] - $low) * $scale));
            }
            $told[] = new Grey($planes->rect, $v);
        }

        return [$told[0], $told[1]];
    }

    /**
     * Colours just inside the outline of one lip and of the skin beside it.
     *
     * @param list<float> $xs
     * @param list<float> $ys
     *
     * @return array{list<array{float, float, float}>, list<array{float, float, float}>}
     */
    private static function sides(Planes $planes, array $xs, array $ys, float $width, bool $upper): array
    {
        [$nx, $ny] = EdgeSamples::normals($xs, $ys);
        $rect = $planes->rect;
        $sides = [[], []];
        foreach ($xs as $k => $x) {
            if (($ny[$k] < 0) !== $upper) {
                continue;
            }
            foreach ([...array_map(static fn(float $s): float => -$s, self::ACROSS), ...self::SKIN] as $share) {
                $i = (int) ($x + $share * $width * $nx[$k]) - $rect->x;
                $j = (int) ($ys[$k] + $share * $width * $ny[$k]) - $rect->y;
                if ($i >= 0 && $j >= 0 && $i < $rect->width && $j < $rect->height) {
                    $at = $j * $rect->width + $i;
                    $sides[$share < 0 ? 0 : 1][] = [$planes->r[$at], $planes->g[$at], $planes->b[$at]];
                }
            }
        }

        return [$sides[0], $sides[1]];
    }
}
