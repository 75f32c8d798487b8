<?php

declare(strict_types=1);

namespace App\Deliveries;

/** Name, frame and timecode burnt into the foot of a picture, for those who look at it in a review. */
final class BurnIn
{
    /** A font that ships with a package, so that none has to be installed. */
    public static function font(): string
    {
        return base_path('vendor/dompdf/dompdf/lib/fonts/DejaVuSansMono.ttf');
    }

    public static function filter(string $name, int $from, string $timecode, string $rate): string
    {
        $font = self::font();
        // By its ascent, so that both stand on one line whatever letters are in them.
        $at = static fn(string $x, string $says): string => "drawtext=fontfile='{$font}':fontsize=h/28:fontcolor=white:box=1:boxcolor=black@0.6:boxborderw=4:y=h*0.96-ascent:x={$x}:{$says}";
        $plain = preg_replace('/[^\p{L}\p{N} ._-]/u', '', $name);

        return $at('h/30', "text='{$plain}   %{eif\\:n+{$from}\\:d\\:6}'") . ',' . $at('w-tw-h/30', "timecode='" . str_replace(':', '\\:', $timecode) . "':rate={$rate}");
    }
}
