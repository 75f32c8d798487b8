<?php

declare(strict_types=1);

namespace Cossel\Measuring;

use App\Footage\Ffmpeg;

/** Copies of footage spoilt in known ways, to see whether a follow knows where it went wrong. */
final class Spoilt
{
    /** What is done, as ffmpeg filters; frames 0 to 83 of 1280x720. */
    private const WAYS = [
        'a pasted cover' => "drawbox=x=iw*0.30:y=ih*0.12:w=iw*0.42:h=ih*0.80:color=0x6b7a5a:t=fill:enable='between(n,52,59)'",
        'a black flash' => "drawbox=color=black:t=fill:enable='between(n,18,20)+between(n,62,63)'",
        'doubled blur' => "gblur=sigma=14:enable='between(n,54,64)'",
        'a frozen stretch' => 'freezeframes=first=12:last=24:replace=12',
    ];

    /** @return list<string> */
    public static function ways(): array
    {
        return array_keys(self::WAYS);
    }

    /** Writes a spoilt copy of a file, FFV1 in Matroska. */
    public static function copy(string $from, string $way, string $to): void
    {
        $filter = self::WAYS[$way];
        // The frames to put in come from a second reading of the same file.
        $graph = str_starts_with($filter, 'freezeframes') ? "[0:v][1:v]{$filter}[v]" : "[0:v]{$filter}[v]";
        Ffmpeg::run(['-i', $from, '-i', $from, '-filter_complex', $graph, '-map', '[v]', '-c:v', 'ffv1', '-y', $to], [$from], [dirname($to)], timeout: 300);
    }
}
