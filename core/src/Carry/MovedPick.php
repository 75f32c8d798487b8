<?php

declare(strict_types=1);

namespace Cossel\Core\Carry;

use Cossel\Core\Recipe\Pick;

/**
 * A pick as it is wanted in another light: its ranges take the same share of what the area is given. Lightness and chroma go by the
 * ratio of the means, hue by their difference; what is open stays open. Its samples stay behind, they are of another shot.
 */
final class MovedPick
{
    private const OPEN_CHROMA = 0.5;
    private const OPEN_LIGHT = 1.5;
    /** Ratios further off than this tell of something else than light. */
    private const MOST = 4.0;
    /** Chroma under which hue says nothing. */
    private const GREY = 0.015;

    /**
     * @param Tones $from what the area is given where the pick was made
     * @param Tones $to   and where it goes
     */
    public static function of(Pick $pick, Tones $from, Tones $to): Pick
    {
        [[$l, $a, $b], [$toL, $toA, $toB]] = [$from->mean, $to->mean];
        [$c, $toC] = [hypot($a, $b), hypot($toA, $toB)];
        $light = self::ratio($l, $toL);
        $chroma = $c < self::GREY || $toC < self::GREY ? 1.0 : self::ratio($c, $toC);
        $turn = $c < self::GREY || $toC < self::GREY ? 0.0 : rad2deg(atan2($toB, $toA) - atan2($b, $a));
        $moved = static fn(array $range, float $by, float $open): array => [
            min($open, $range[0] * $by),
            $range[1] >= $open ? $range[1] : min($open, $range[1] * $by),
            $range[2],
        ];

        return $pick->withRanges(
            [],
            [fmod(fmod($pick->hue[0] + $turn, 360.0) + 360.0, 360.0), $pick->hue[1], $pick->hue[2]],
            $moved($pick->chroma, $chroma, self::OPEN_CHROMA),
            $moved($pick->light, $light, self::OPEN_LIGHT),
            $pick->follow === null ? null : min(self::OPEN_LIGHT, $pick->follow * $light),
        );
    }

    private static function ratio(float $from, float $to): float
    {
        return $from <= 0.0 ? 1.0 : max(1 / self::MOST, min(self::MOST, $to / $from));
    }
}
