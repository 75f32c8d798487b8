<?php

declare(strict_types=1);

namespace Cossel\Core\Propose;

use Cossel\Core\Motion\FrameSource;
use Cossel\Core\Motion\IrisCircle;
use Cossel\Core\Motion\RoundEdges;

/**
 * The irises of two eyes, found together: each may lie anywhere between its lids and be of any likely size, but both are of one size, as
 * far apart as eyes of that size are, and turned the same way.
 */
final class Irises
{
    /** Sizes looked for, as shares of the eye's width: it is rarely known well. */
    private const SIZES = [0.17, 0.2, 0.235, 0.27, 0.31, 0.36];
    /** Furthest an iris is looked for from the middle of the lids, in shares of the eye's width. */
    private const GLANCE = 0.3;
    /** Difference of both radii (as a logarithm) that a turned head may bring, and what more of it costs. */
    private const ALIKE = 0.12;
    private const UNLIKE = 4.0;
    /** Where nothing is known, an iris must be more like one than this. */
    private const LIKE = 1.4;
    /** What two eyes may be off the horizontal by, as a slope. */
    private const LEVEL = 0.8;
    /** Rows of the picture round places are looked for in, how many of them are looked at, and the largest iris as a share of the rows. */
    private const SMALL = 150;
    private const PLACES = 12;
    private const LARGEST = 0.18;
    /** Distance of two irises in radii, from a head turned far to wide-set eyes (adults have 9 to 12.5 from in front). */
    public const APART = [6.0, 13.2];

    /**
     * @param array{float, float} $left  middle of the lids of each eye, pixels
     * @param array{float, float} $right
     * @param float               $wide  of an eye, pixels
     *
     * @return array{IrisCircle|null, IrisCircle|null}
     */
    public static function of(FrameSource $source, int $frame, array $left, array $right, float $wide): array
    {
        $found = array_map(static fn(array $place): array => self::about($source, $frame, $place, $wide), [$left, $right]);
        $strongest = max([0.02, ...array_map(static fn(IrisCircle $c): float => $c->step, array_merge(...$found))]);
        $worth = static fn(?IrisCircle $c): float => $c === null ? 0.0 : $c->likeness - IrisCircle::LEAST + 0.5 * $c->step / $strongest;
        $best = [-INF, null, null];
        foreach ([...$found[0], null] as $a) {
            foreach ([...$found[1], null] as $b) {
                $odd = $a === null || $b === null ? 0.0 : self::odd($a, $b, $left, $right);
                $told = $worth($a) + $worth($b) - $odd;
                if ($told > $best[0]) {
                    $best = [$told, $a, $b];
                }
            }
        }

        return [$best[1], $best[2]];
    }

    /**
     * Where no face is seen to look in: irises anywhere in the picture.
     *
     * @return array{IrisCircle|null, IrisCircle|null} of the person's left and right eye; one alone is named by its side of the picture
     */
    public static function anywhere(FrameSource $source, int $frame): array
    {
        $found = self::strewn($source, $frame);
        $strongest = max([0.02, ...array_map(static fn(IrisCircle $c): float => $c->step, $found)]);
        $worth = static fn(IrisCircle $c): float => $c->likeness - self::LIKE + 0.5 * $c->step / $strongest;
        $best = [0.0, null, null];
        foreach ($found as $a) {
            if ($worth($a) > $best[0]) {
                $best = $a->x > $source->frame()->width / 2 ? [$worth($a), $a, null] : [$worth($a), null, $a];
            }
            foreach ($found as $b) {
                if ($a->x - $b->x < $a->radius || abs($a->y - $b->y) > self::LEVEL * ($a->x - $b->x)) {
                    continue;
                }
                $told = $worth($a) + $worth($b) - self::odd($a, $b, [$a->x, $a->y], [$b->x, $b->y]);
                if ($told > $best[0]) {
                    $best = [$told, $a, $b];
                }
            }
        }

        return self::both($source, $frame, $best[1], $best[2]);
    }

    /**
     * The other one looked for where the picture is most like the one that was found.
     *
     * @return array{IrisCircle|null, IrisCircle|null}
     */
    private static function both(FrameSource $source, int $frame, ?IrisCircle $left, ?IrisCircle $right): array
    {
        $one = $left ?? $right;
        if ($one === null || ($left !== null && $right !== null)) {
            return [$left, $right];
        }
        $place = OtherEye::of($source->luma($frame, $source->frame()), $one->x, $one->y, $one->radius);
        $other = $place === null ? null : IrisCircle::near($source, $frame, $place[0], $place[1], $one->radius, 0.6 * $one->radius);
        if ($other === null || $other->likeness < self::LIKE || self::odd($one, $other, [$one->x, $one->y], [$other->x, $other->y]) > 0.5) {
            return [$left, $right];
        }

        return $one->x > $other->x ? [$one, $other] : [$other, $one];
    }

    /** How far apart two irises are, in their mean radius. */
    public static function apart(IrisCircle $a, IrisCircle $b): float
    {
        return 2 * hypot($a->x - $b->x, $a->y - $b->y) / ($a->radius + $b->radius);
    }

    /**
     * What speaks against their being a pair.
     *
     * @param array{float, float} $left
     * @param array{float, float} $right
     */
    private static function odd(IrisCircle $a, IrisCircle $b, array $left, array $right): float
    {
        $size = max(0.0, abs(log($a->radius / $b->radius)) - self::ALIKE);
        $apart = self::apart($a, $b);
        $off = max(0.0, log(self::APART[0] / $apart), log($apart / self::APART[1]));
        // Both look the same way: what they are off the middles of their lids is alike.
        $glance = hypot($a->x - $left[0] - $b->x + $right[0], $a->y - $left[1] - $b->y + $right[1]) / ($a->radius + $b->radius);

        return self::UNLIKE * ($size + $off) + 0.5 * $glance;
    }

    /** @return list<IrisCircle> that are seen round dark places anywhere */
    private static function strewn(FrameSource $source, int $frame): array
    {
        $luma = $source->luma($frame, $source->frame());
        $shrunk = 1;
        while ($luma->rect->height > 2 * self::SMALL) {
            $luma = $luma->halved();
            $shrunk *= 2;
        }
        $small = $luma->halved();
        $radii = [];
        for ($radius = 4.0; $radius < self::LARGEST * $small->rect->height; $radius *= 1.2) {
            $radii[] = $radius;
        }
        $found = [];
        foreach (RoundPlaces::of($small, $radii, self::PLACES) as [$x, $y, $radius]) {
            $best = null;
            // What is round may be the pupil, or the iris: the sizes with the clearest edges are looked at.
            $sizes = array_map(static fn(float $larger): float => 2 * $larger * $radius, [0.8, 1.0, 1.3, 1.7, 2.2, 2.8]);
            $steps = array_map(static fn(float $size): float => RoundEdges::ringStep($luma, 2 * $x, 2 * $y, $size), $sizes);
            array_multisort($steps, SORT_DESC, $sizes);
            foreach (array_slice($sizes, 0, 3) as $size) {
                $circle = $size < 5.0 ? null : IrisCircle::in($luma, 2 * $x, 2 * $y, $size, 0.5 * $size);
                if ($circle !== null && ($best === null || $circle->likeness + 2 * $circle->step > $best->likeness + 2 * $best->step)) {
                    $best = $circle;
                }
            }
            if ($best !== null && $best->likeness > self::LIKE) {
                $radius = $best->radius * $shrunk;
                $found[] = IrisCircle::near($source, $frame, $best->x * $shrunk, $best->y * $shrunk, $radius, 0.15 * $radius);
            }
        }

        return array_values(array_filter($found));
    }

    /**
     * @param array{float, float} $place
     *
     * @return list<IrisCircle> of several sizes, those that are the same once
     */
    private static function about(FrameSource $source, int $frame, array $place, float $wide): array
    {
        $found = [];
        foreach (self::SIZES as $size) {
            $circle = IrisCircle::near($source, $frame, $place[0], $place[1], $size * $wide, self::GLANCE * $wide);
            foreach ($circle === null ? [] : $found as $other) {
                $near = hypot($circle->x - $other->x, $circle->y - $other->y) < 0.1 * $other->radius;
                if ($near && abs(log($circle->radius / $other->radius)) < 0.1) {
                    continue 2;
                }
            }
            if ($circle !== null) {
                $found[] = $circle;
            }
        }

        return $found;
    }
}
