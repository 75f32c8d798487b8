<?php

declare(strict_types=1);

namespace Cossel\Core\Pick;

use Cossel\Core\Colour\Oklab;
use Cossel\Core\Colour\Transfer;
use Cossel\Core\Recipe\Pick;
use Cossel\Core\Recipe\Sample;

/**
 * Ranges that take the samples marked + and leave those marked -. They span the + samples with a little room; a - sample
 * inside them then moves the one bound that has the most room between it and the + samples, to the middle.
 */
final class Ranges
{
    /** Room beyond the samples, and the softness after it: degrees, chroma, lightness. */
    private const ROOM = [8.0, 0.012, 0.05];
    private const SOFT = [10.0, 0.02, 0.06];

    /**
     * @param list<Sample> $samples
     * @param float|null        $follow  mean lightness of the area as the pick is to follow it; null where it should not
     * @param array<int, float> $lights  that mean on the frames samples were taken on: they count as they would be in that light
     */
    public static function proposed(Pick $pick, array $samples, Transfer $transfer, ?float $follow, array $lights = []): Pick
    {
        $taken = $left = [];
        foreach ($samples as $sample) {
            [$hue, $chroma, $l] = self::colour($sample, $transfer);
            $l += $follow === null ? 0.0 : $follow - ($lights[$sample->frame] ?? $follow);
            if ($sample->taken) {
                $taken[] = [$hue, $chroma, $l];
            } else {
                $left[] = [$hue, $chroma, $l];
            }
        }
        if ($taken === []) {
            return (new Pick())->withRanges($samples, [0.0, 360.0, 0.0], [0.0, 0.5, 0.0], [0.0, 1.5, 0.0], $follow);
        }
        $middle = self::middle($taken);
        // Hues as distances from the middle one, so that they do not wrap.
        $turned = static fn(array $lch): array => [self::apart($lch[0], $middle), $lch[1], $lch[2]];
        $taken = array_map($turned, $taken);
        $bounds = [];
        foreach (self::ROOM as $k => $room) {
            $bounds[$k] = [min(array_column($taken, $k)) - $room, max(array_column($taken, $k)) + $room];
        }
        // Near grey the hue says nothing.
        if (min(array_column($taken, 1)) < 0.012) {
            $bounds[0] = [-180.0, 180.0];
        }
        foreach (array_map($turned, $left) as $lch) {
            $bounds = self::without($lch, $bounds, $taken);
        }
        [$hue, $chroma, $light] = $bounds;
        $width = min(360.0, $hue[1] - $hue[0]);

        return $pick->withRanges(
            $samples,
            [fmod(fmod($middle + ($hue[0] + $hue[1]) / 2, 360) + 360, 360), $width, $width >= 360.0 ? 0.0 : self::SOFT[0]],
            [max(0.0, $chroma[0]), min(0.5, $chroma[1]), self::SOFT[1]],
            [max(0.0, $light[0]), min(1.5, $light[1]), self::SOFT[2]],
            $follow,
        );
    }

    /** @return array{float, float, float} hue in degrees, chroma, lightness */
    public static function colour(Sample $sample, Transfer $transfer): array
    {
        [$l, $a, $b] = Oklab::fromLinear(...array_map($transfer->linear(...), $sample->rgb));

        return [rad2deg(atan2($b, $a)), hypot($a, $b), $l];
    }

    /** @param non-empty-list<array{float, float, float}> $colours */
    private static function middle(array $colours): float
    {
        $x = $y = 0.0;
        foreach ($colours as [$hue, $chroma]) {
            $x += $chroma * cos(deg2rad($hue));
            $y += $chroma * sin(deg2rad($hue));
        }

        return rad2deg(atan2($y, $x));
    }

    private static function apart(float $hue, float $from): float
    {
        $d = $hue - $from;

        return $d - 360.0 * round($d / 360.0);
    }

    /**
     * @param array{float, float, float}             $lch
     * @param array<int, array{float, float}>        $bounds
     * @param list<array{float, float, float}>       $taken
     *
     * @return array<int, array{float, float}>
     */
    private static function without(array $lch, array $bounds, array $taken): array
    {
        $best = null;
        foreach ($bounds as $k => [$least, $most]) {
            if ($lch[$k] < $least - self::SOFT[$k] || $lch[$k] > $most + self::SOFT[$k]) {
                return $bounds;
            }
            $low = min(array_column($taken, $k));
            $high = max(array_column($taken, $k));
            foreach ([[0, $low - $lch[$k], $low], [1, $lch[$k] - $high, $high]] as [$side, $gap, $end]) {
                $room = $gap / self::SOFT[$k];
                if ($room > 0.0 && ($best === null || $room > $best[0])) {
                    // So far from the sample that its softness ends before it.
                    $bound = ($end + $lch[$k]) / 2;
                    $best = [
                        $room,
                        $k,
                        $side,
                        $side === 0 ? max($bound, $lch[$k] + self::SOFT[$k]) : min($bound, $lch[$k] - self::SOFT[$k]),
                        $end,
                    ];
                }
            }
        }
        if ($best !== null) {
            [, $k, $side, $bound, $end] = $best;
            $bounds[$k][$side] = $side === 0 ? max($bounds[$k][0], min($bound, $end)) : min($bounds[$k][1], max($bound, $end));
        }

        return $bounds;
    }
}
