<?php

declare(strict_types=1);

namespace Cossel\Core\Render;

use Cossel\Core\Touch\Kind;

/**
 * What touches cost, so that it can be said beforehand what a frame will take: nanoseconds a pixel on a machine of 2026,
 * measured one by one with usual settings. They say within a factor of three; nothing but that is done with them.
 *
 * @internal
 */
final class Prices
{
    /** To bring stored pixels into a window and back. */
    public const WINDOW = 160.0;
    /** For a kind that is not in the list. */
    private const UNKNOWN = 1000.0;
    private const OF = [
        'exposure' => 60, 'tone' => 180, 'cdl' => 220, 'colour' => 300, 'trim' => 300, 'balance' => 450, 'curves' => 130, 'hues' => 800,
        'sidelight' => 80, 'even' => 3000, 'whiten' => 800, 'iris' => 1100, 'conceal' => 10000, 'match' => 1000, 'grain' => 1400,
        'blur' => 1800, 'sharpen' => 500, 'glow' => 2600, 'lut' => 400, 'insert' => 400, 'legal' => 60,
    ];

    public static function of(Kind $kind): float
    {
        return (float) (self::OF[$kind->name()] ?? self::UNKNOWN);
    }

    /** @return list<string> names of the kinds that have one */
    public static function known(): array
    {
        return array_keys(self::OF);
    }
}
