<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Geometry\Matrix;

/**
 * Lays the motion over frames on which a thing was not seen smoothly between those on which it was: from where and how fast it went in to
 * where and how fast it came out (a cubic Hermite piece for each number of the motion).
 */
final class Bridge
{
    /** Frames over which a speed is taken: over fewer what shakes tells too much, over more it is old. */
    private const OVER = 2;

    /**
     * @param array<int, Step> $steps by frame
     *
     * @return array<int, Step> in the same order
     */
    public static function smooth(array $steps): array
    {
        $frames = array_keys($steps);
        sort($frames);
        foreach ($frames as $first) {
            if ($steps[$first]->state !== State::Bridged || ($steps[$first - 1]->state ?? State::Bridged) === State::Bridged) {
                continue;
            }
            for ($last = $first; ($steps[$last + 1]->state ?? null) === State::Bridged;) {
                ++$last;
            }
            if (!isset($steps[$last + 1])) {
                continue;
            }
            foreach (self::between($steps, $first - 1, $last + 1) as $frame => $numbers) {
                $steps[$frame] = $steps[$frame]->moved(Matrix::of(array_slice($numbers, 0, 9)), array_slice($numbers, 9));
            }
        }

        return $steps;
    }

    /**
     * @param array<int, Step> $steps
     *
     * @return \Generator<int, list<float>>
     */
    private static function between(array $steps, int $in, int $out): \Generator
    {
        [$from, $to] = [self::numbers($steps[$in]), self::numbers($steps[$out])];
        $n = $out - $in;
        $before = self::speed($steps, $in, -1) ?? array_map(static fn(float $a, float $b): float => ($b - $a) / $n, $from, $to);
        $after = self::speed($steps, $out, 1) ?? array_map(static fn(float $a, float $b): float => ($b - $a) / $n, $from, $to);
        for ($frame = $in + 1; $frame < $out; ++$frame) {
            $t = ($frame - $in) / $n;
            [$p, $q] = [(1 + 2 * $t) * (1 - $t) ** 2, $t * $t * (3 - 2 * $t)];
            [$u, $v] = [$n * $t * (1 - $t) ** 2, -$n * $t * $t * (1 - $t)];
            yield $frame => array_map(
                static fn(float $a, float $b, float $c, float $d): float => $p * $a + $q * $b + $u * $c + $v * $d,
                $from,
                $to,
                $before,
                $after,
            );
        }
    }

    /**
     * How the motion changes from frame to frame where it is seen.
     *
     * @param array<int, Step> $steps
     * @param int              $way   1 after the frame, -1 before it
     *
     * @return list<float>|null
     */
    private static function speed(array $steps, int $frame, int $way): ?array
    {
        $k = 0;
        while ($k < self::OVER && in_array($steps[$frame + ($k + 1) * $way]->state ?? null, [State::Followed, State::Set], true)) {
            ++$k;
        }
        if ($k === 0) {
            return null;
        }
        $rise = static fn(float $a, float $b): float => ($b - $a) * $way / $k;

        return array_map($rise, self::numbers($steps[$frame]), self::numbers($steps[$frame + $k * $way]));
    }

    /** @return list<float> */
    private static function numbers(Step $step): array
    {
        return [...$step->matrix->m, ...$step->depth];
    }
}
