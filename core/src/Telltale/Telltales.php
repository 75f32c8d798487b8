<?php

declare(strict_types=1);

namespace Cossel\Core\Telltale;

/** All tell-tales, in the order in which they are told. First file to read of this folder. */
final class Telltales
{
    /** @return list<Telltale> */
    public static function all(): array
    {
        static $all;

        return $all ??= [
            new Halo(),
            new Bleed(),
            new Drift(),
            new Flicker(),
            new LeftOn(),
            new OverWhite(),
            new Paint(),
            new Mismatch(),
            new Plastic(),
            new NoiseLifted(),
            new Levels(),
        ];
    }
}
