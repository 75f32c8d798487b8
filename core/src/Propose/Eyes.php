<?php

declare(strict_types=1);

namespace Cossel\Core\Propose;

use Cossel\Core\Motion\FrameSource;
use Cossel\Core\Motion\IrisCircle;
use Cossel\Core\Motion\RoundEdges;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Rect;

/**
 * Both eyes of a person, looked for and checked: an iris is round, less red than what is beside it and between its lids, lids stand out
 * from the skin; two eyes are of one size, as far apart as that size allows, level with the head, and open alike. What fails says why.
 */
final class Eyes
{
    /** Shares of rays that agree on an iris, together, from which it is one for sure. */
    public const ROUND = 1.45;
    /** And whatever its lids look like. */
    private const SURELY_ROUND = 1.7;
    /** How well lids must part the eye from the skin, of what they could. */
    public const PARTED = 0.24;
    /** The same of one eye alone. */
    private const ALONE = [1.65, 0.32];
    /** By how much less red it must be just inside the edge of an iris than just outside: none is as red as white or skin. */
    private const LESS_RED = 0.16;
    /** The opening's height in radii of the iris, from nearly closed to wider than any eye opens. */
    private const OPEN = [0.45, 2.15];
    /** How unlike in size (as a logarithm) two irises may be, and two openings. */
    private const SIZES = 0.3;
    private const OPENINGS = 0.75;
    /** By how much two lids differ that disagree, radii. */
    private const DISAGREE = 0.3;
    /** And after they were looked for again: those of heads turned far differ by .55. */
    private const UNLIKE = 0.75;
    /** How far the line between the irises may be off the head's tilt, radians. */
    private const LEVEL = 0.3;

    /**
     * @return array{Eye, Eye} the person's left, right
     */
    public static function of(FrameSource $source, int $frame, Landmarks $face): array
    {
        [$left, $right] = $face->mesh?->isSure() ? MeshEyes::irises($source, $frame, $face->mesh) : self::irises($source, $frame, $face);

        return self::pair($source, $frame, $left, $right, deg2rad($face->tilt()));
    }

    /** @return array{IrisCircle|null, IrisCircle|null} about the middles of the lids */
    private static function irises(FrameSource $source, int $frame, Landmarks $face): array
    {
        $height = $source->frame()->height;
        $places = $wide = [];
        foreach ([true, false] as $left) {
            $lids = $face->lids($left);
            $places[] = array_map(static fn(float $v): float => $v * $height, Landmarks::middle($lids));
            $wide[] = $height * hypot($lids[3][0] - $lids[0][0], $lids[3][1] - $lids[0][1]);
        }

        return Irises::of($source, $frame, [$places[0][0], $places[0][1]], [$places[1][0], $places[1][1]], max($wide));
    }

    /**
     * Where no face is seen whole.
     *
     * @return list<Eye> those that are sure
     */
    public static function alone(FrameSource $source, int $frame): array
    {
        [$left, $right] = Irises::anywhere($source, $frame);
        $tilt = $left !== null && $right !== null ? atan2($left->y - $right->y, $left->x - $right->x) : 0.0;

        $sure = array_values(array_filter(self::pair($source, $frame, $left, $right, $tilt), static fn(Eye $eye): bool => $eye->sure()));

        return count($sure) === 2 ? $sure : array_values(array_filter($sure, self::clear(...)));
    }

    /** Whether an iris is one for sure, whatever its lids. */
    public static function isOne(FrameSource $source, int $frame, IrisCircle $iris, float $tilt): bool
    {
        return self::seen($source, $frame, true, $iris, $tilt)->round;
    }

    /** @return array{Eye, Eye} */
    private static function pair(FrameSource $source, int $frame, ?IrisCircle $left, ?IrisCircle $right, float $tilt): array
    {
        $a = self::seen($source, $frame, true, $left, $tilt);
        $b = self::seen($source, $frame, false, $right, $tilt);
        if ($a->lids !== null && $b->lids !== null) {
            // Two eyes open alike: where they disagree the odder lids are looked for again, like the others.
            $agree = $a->lids->unlike($b->lids) < self::DISAGREE;
            if (!$agree && $a->lids->odd() < $b->lids->odd()) {
                $b = self::doubtedUnlike(self::seen($source, $frame, false, $right, $tilt, $a->lids), $a->lids);
            } elseif (!$agree) {
                $a = self::doubtedUnlike(self::seen($source, $frame, true, $left, $tilt, $b->lids), $b->lids);
            }
        }
        $why = $left === null || $right === null ? null : self::unlike($left, $right, $tilt);
        if ($why !== null) {
            return [$a->doubted($why), $b->doubted($why)];
        }
        if ($a->sure() !== $b->sure() && !self::clear($a->sure() ? $a : $b)) {
            // Eyes blink together.
            $why = 'only one eye looks open';

            return [$a->doubted($why), $b->doubted($why)];
        }
        [$x, $y] = [$a->lids, $b->lids];
        if ($a->sure() && $b->sure() && $x !== null && $y !== null && abs(log($x->height() / $y->height())) > self::OPENINGS) {
            $why = 'one eye is found much more open than the other';

            // The one whose lids stand out less is the doubtful one.
            return $x->sure < $y->sure ? [$a->doubted($why), $b] : [$a, $b->doubted($why)];
        }

        return [$a, $b];
    }

    private static function doubtedUnlike(Eye $eye, Lids $other): Eye
    {
        $isFar = $eye->sure() && $eye->lids !== null && $eye->lids->unlike($other) > self::UNLIKE;

        return $isFar ? $eye->doubted('its lids are found unlike those of the other eye', round: true) : $eye;
    }

    /** One eye alone has nothing else that speaks for it. */
    private static function clear(Eye $eye): bool
    {
        return $eye->iris?->likeness > self::ALONE[0] && $eye->lids?->sure > self::ALONE[1];
    }

    private static function seen(FrameSource $source, int $frame, bool $left, ?IrisCircle $iris, float $tilt, ?Lids $other = null): Eye
    {
        if ($iris === null) {
            return new Eye($left, null, null, $tilt, 'no round edge of an iris is seen: the eye is closed, hidden or turned away');
        }
        $lids = Lids::round($source, $frame, $iris, $tilt, $other);
        $eye = new Eye($left, $iris, $lids, $tilt, null);
        $isOther = self::lessRed($source, $frame, $iris) > self::LESS_RED;

        return new Eye($left, $iris, $lids, $tilt, match (true) {
            $iris->likeness < self::ROUND && $lids->sure < self::PARTED => 'the eye is closed or hidden',
            $iris->likeness < self::ROUND => 'the edge of the iris is not round',
            $lids->sure < self::PARTED => 'the lids do not stand out from the skin: the eye is closed or hidden',
            $lids->height() < self::OPEN[0] => 'the eye is nearly closed',
            $lids->height() > self::OPEN[1] => 'the lids do not stand out from what is behind them',
            !$isOther => 'the iris hardly stands out from what is beside it',
            !$lids->holdsIris() => 'the iris is not between the lids',
            !self::inside($source, $eye) => 'part of the eye is outside the frame',
            default => null,
        }, $iris->likeness > self::SURELY_ROUND && $isOther);
    }

    private static function lessRed(FrameSource $source, int $frame, IrisCircle $iris): float
    {
        $reach = 1.2 * $iris->radius + 1;
        $rect = Rect::around($iris->x - $reach, $iris->y - $reach, $iris->x + $reach, $iris->y + $reach)->intersect($source->frame());
        [$step, $outside] = RoundEdges::ring(new Grey($rect, $source->colour($frame, $rect)->r), $iris->x, $iris->y, $iris->radius);

        return $step / max(0.01, $outside);
    }

    private static function unlike(IrisCircle $left, IrisCircle $right, float $tilt): ?string
    {
        $apart = Irises::apart($left, $right);
        $slope = atan2($left->y - $right->y, $left->x - $right->x) - $tilt;

        return match (true) {
            abs(log($left->radius / $right->radius)) > self::SIZES => 'the eyes are of unequal size',
            $apart < Irises::APART[0] => 'the eyes are closer together than their size allows',
            $apart > Irises::APART[1] => 'the eyes are further apart than their size allows',
            abs(atan2(sin($slope), cos($slope))) > self::LEVEL => 'the eyes are not level with the head',
            default => null,
        };
    }

    private static function inside(FrameSource $source, Eye $eye): bool
    {
        $frame = $source->frame();
        foreach ([0.0, 0.25, 0.5, 0.75, 1.0] as $t) {
            foreach ([true, false] as $upper) {
                [$x, $y] = $eye->lidAt($t, $upper);
                if ($x < 0 || $y < 0 || $x > $frame->width || $y > $frame->height) {
                    return false;
                }
            }
        }

        return true;
    }
}
