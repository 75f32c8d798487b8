<?php

declare(strict_types=1);

namespace Cossel\Measuring;

/** Frames as spans in words. */
final class Spans
{
    /** @param list<int> $frames */
    public static function words(array $frames): string
    {
        sort($frames);
        $spans = [];
        foreach ($frames as $frame) {
            $last = array_key_last($spans);
            if ($last !== null && $spans[$last][1] === $frame - 1) {
                $spans[$last][1] = $frame;
            } else {
                $spans[] = [$frame, $frame];
            }
        }

        return $spans === [] ? 'none' : implode(', ', array_map(static fn(array $s): string => $s[0] === $s[1] ? "{$s[0]}" : "{$s[0]} to {$s[1]}", $spans));
    }
}
