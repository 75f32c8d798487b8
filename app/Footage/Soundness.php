<?php

declare(strict_types=1);

namespace App\Footage;

/** What is missing of a file or damaged in it, in sentences with the frames: nothing is taken as whole that is not. */
final class Soundness
{
    /** So large a share of all steps is one frame long in footage of a constant rate; what varies more is meant to vary. */
    private const STEADY = 0.9;
    /** Places named in a sentence at the most. */
    private const NAMED = 8;

    /**
     * @param list<int>      $times   of the frames that could be decoded, in units of $unit
     * @param float          $unit    seconds
     * @param float          $step    seconds from frame to frame at the file's own rate
     * @param list<int>      $packets times the container has a frame for
     * @param float|null     $claimed seconds that the container says the picture lasts, from its first frame
     * @param list<int>      $torn    numbers of frames the decoder complained of
     * @param bool           $hasEnd  whether the container has the mark of its end, where it is of those that have one
     *
     * @return list<string>
     */
    public static function damage(array $times, float $unit, float $step, array $packets, ?float $claimed, array $torn, bool $hasEnd = true): array
    {
        $frames = count($times);
        $damage = [];
        $missing = self::missing($times, $unit, $step, $packets);
        if ($missing !== []) {
            $place = static fn(int $after): string => $after < 0 ? 'before frame 0' : "after frame {$after}";
            $places = array_map(static fn(int $after, int $n): string => "{$n} {$place($after)}", array_keys($missing), $missing);
            $total = array_sum($missing);
            $damage[] = $total === 1 ? sprintf('A frame is missing %s.', $place(array_key_first($missing))) : sprintf('%d frames are missing: %s.', $total, self::listed($places));
        }
        $lasts = ($times[$frames - 1] - $times[0]) * $unit + $step;
        if ($claimed !== null && $claimed > $lasts + 1.5 * $step) {
            $damage[] = sprintf('The file ends early: by its own word it lasts %d frames, and they end after frame %d.', (int) round($claimed / $step), $frames - 1);
        }
        if (!$hasEnd) {
            $damage[] = sprintf('The file ends early: it breaks off after frame %d, without the page that is marked as its last.', $frames - 1);
        }
        if ($torn !== []) {
            $damage[] = sprintf('The picture may be torn at %s %s.', count($torn) === 1 ? 'frame' : 'frames', self::listed(self::runs($torn)));
        }

        return $damage;
    }

    /**
     * Frames that the container has and the decoder did not give, and holes in the time of steady footage.
     *
     * @param list<int> $times
     * @param list<int> $packets
     *
     * @return array<int, int> how many by the number of the frame before them
     */
    private static function missing(array $times, float $unit, float $step, array $packets): array
    {
        $missing = [];
        $last = count($times) - 1;
        foreach (array_diff($packets, $times) as $time) {
            $after = self::before($times, $time);
            // Packets that show nothing of themselves lie close to a frame; after the last frame is the end.
            if ($after < $last && min($time - ($times[$after] ?? -INF), $times[$after + 1] - $time) * $unit > 0.5 * $step) {
                $missing[$after] = ($missing[$after] ?? 0) + 1;
            }
        }
        $holes = [];
        $steady = 0;
        for ($i = 1, $n = count($times); $i < $n; ++$i) {
            $steps = ($times[$i] - $times[$i - 1]) * $unit / $step;
            // Containers that count in milliseconds round each time.
            $slack = max(0.1, 1.5 * $unit / $step);
            $steady += (int) (abs($steps - 1) <= $slack);
            if ($steps > 1.5 && abs($steps - round($steps)) <= $slack) {
                $holes[$i - 1] = (int) round($steps) - 1;
            }
        }
        if ($steady >= self::STEADY * (count($times) - 1)) {
            foreach ($holes as $after => $n) {
                $missing[$after] = max($n, $missing[$after] ?? 0);
            }
        }
        ksort($missing);

        return $missing;
    }

    /** @param list<int> $times in order */
    private static function before(array $times, int $time): int
    {
        [$low, $high] = [0, count($times)];
        while ($low < $high) {
            $middle = intdiv($low + $high, 2);
            [$low, $high] = $times[$middle] < $time ? [$middle + 1, $high] : [$low, $middle];
        }

        return $low - 1;
    }

    /**
     * @param list<int> $numbers in order
     *
     * @return list<string> “4” or “4 to 7”
     */
    public static function runs(array $numbers): array
    {
        $runs = [];
        foreach ($numbers as $number) {
            $last = count($runs) - 1;
            if ($last >= 0 && $runs[$last][1] === $number - 1) {
                $runs[$last][1] = $number;
            } else {
                $runs[] = [$number, $number];
            }
        }

        return array_map(static fn(array $run): string => $run[0] === $run[1] ? (string) $run[0] : "{$run[0]} to {$run[1]}", $runs);
    }

    /** @param list<string> $places */
    public static function listed(array $places): string
    {
        $more = count($places) - self::NAMED;

        return implode(', ', array_slice($places, 0, self::NAMED)) . ($more > 0 ? " and {$more} more" : '');
    }
}
