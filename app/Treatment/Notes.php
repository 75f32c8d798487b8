<?php

declare(strict_types=1);

namespace App\Treatment;

/** The notes on a shot, which several people write in: what each adds, changes or takes out holds, and where both did so both stay. */
final class Notes
{
    /**
     * @param string $base   as whoever writes saw them
     * @param string $theirs as they are by now
     * @param string $mine   as they are to be
     */
    public static function merged(string $base, string $theirs, string $mine): string
    {
        if ($theirs === $base || $mine === $base || $theirs === $mine) {
            return $theirs === $base ? $mine : $theirs;
        }
        [$lines, $one, $other] = array_map(static fn(string $text): array => $text === '' ? [] : explode("\n", $text), [$base, $theirs, $mine]);
        [$first, $end, $new] = self::change($lines, $one);
        [$from, $to, $own] = self::change($lines, $other);
        if ($end < $from || ($end === $from && $first < $end)) {
            $kept = [...array_slice($lines, 0, $first), ...$new, ...array_slice($lines, $end, $from - $end), ...$own, ...array_slice($lines, $to)];
        } elseif ($to < $first || ($to === $first && $from < $to)) {
            $kept = [...array_slice($lines, 0, $from), ...$own, ...array_slice($lines, $to, $first - $to), ...$new, ...array_slice($lines, $end)];
        } else {
            $kept = [...$one, ...array_values(array_diff($own, $one))];
        }

        return implode("\n", $kept);
    }

    /**
     * The lines between which all that differs lies.
     *
     * @param list<string> $lines
     * @param list<string> $other
     *
     * @return array{int, int, list<string>} first and end in the lines, and what stands there in the other
     */
    private static function change(array $lines, array $other): array
    {
        $most = min(count($lines), count($other));
        for ($first = 0; $first < $most && $lines[$first] === $other[$first]; ++$first);
        for ($same = 0; $same < $most - $first && $lines[count($lines) - 1 - $same] === $other[count($other) - 1 - $same]; ++$same);

        return [$first, count($lines) - $same, array_slice($other, $first, count($other) - $same - $first)];
    }
}
