<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

/** Tells in words where a follow is weak, and why. */
final class Weakness
{
    /** Confidence under which a frame is weak. */
    private const WEAK = 0.4;
    /** Openness of lids or mouth under which nothing is to be seen there. */
    private const SHUT = 0.25;
    /** How much smaller the head is across, against its size along, where it counts as turned away. */
    private const TURNED = 0.8;
    /** Spans that are told, and frames from which one is; a frame that is well between two is counted in. */
    private const MOST = 2;
    private const LEAST = 3;

    /**
     * @param string     $name of the area
     * @param Track|null $head the track of the head it belongs to
     *
     * @return string|null a sentence's part without its stop; null where nothing is weak
     */
    public static function of(string $name, Track $track, ?Track $head): ?string
    {
        $spans = [];
        foreach ($track->steps as $frame => $step) {
            $why = self::why($frame, $step, $head);
            $last = array_key_last($spans);
            if ($why === null) {
                continue;
            }
            if ($last !== null && $spans[$last][1] >= $frame - 2 && $spans[$last][2] === $why) {
                $spans[$last][1] = $frame;
            } else {
                $spans[] = [$frame, $frame, $why];
            }
        }
        $spans = array_values(array_filter($spans, static fn(array $span): bool => $span[1] - $span[0] + 1 >= self::LEAST));
        if ($spans === []) {
            return null;
        }
        // The longest are told, in the order they come in.
        usort($spans, static fn(array $a, array $b): int => $b[1] - $b[0] <=> $a[1] - $a[0]);
        $more = count($spans) - self::MOST;
        $told = array_slice($spans, 0, self::MOST);
        sort($told);
        $words = array_map(static function (array $span): string {
            return "on {$span[0]} to {$span[1]}" . ($span[2] === '' ? '' : ", {$span[2]}");
        }, $told);

        return "{$name}: weak " . implode('; ', $words) . ($more > 0 ? "; and {$more} more" : '');
    }

    /** @return string|null null where it is not weak; empty where it is and nothing tells why */
    private static function why(int $frame, Step $step, ?Track $head): ?string
    {
        $seen = $step->state === State::Followed || $step->state === State::Set;
        if (($seen && $step->confidence >= self::WEAK) || ($step->open !== null && $step->open < self::SHUT)) {
            return null;
        }
        $on = $head !== null && $frame >= $head->first() && $frame <= $head->last() ? $head->steps[$frame] : null;
        if ($on !== null && ($on->state === State::Bridged || $on->state === State::Lost)) {
            // Told of the head itself.
            return null;
        }
        if ($on !== null) {
            [$a, $b, , $d, $e] = $on->matrix->m;
            if (hypot($a, $d) < self::TURNED * hypot($b, $e)) {
                return 'the head turns away';
            }
        }

        return $seen ? '' : 'it is hidden';
    }
}
