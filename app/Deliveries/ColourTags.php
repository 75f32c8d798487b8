<?php

declare(strict_types=1);

namespace App\Deliveries;

use Cossel\Core\Colour\Transfer;
use Cossel\Core\Colour\YuvMatrix;
use Cossel\Core\Picture\FrameFormat;
use Cossel\Core\Picture\Layout;

/** Colour tags for files written by ffmpeg, from what the frames really are. */
final class ColourTags
{
    /** @return list<string> for files in the stored form */
    public static function stored(FrameFormat $format): array
    {
        $rgb = $format->layout === Layout::Rgb;

        return self::options($format, $rgb ? 'rgb' : self::matrix($format), $rgb || $format->fullRange ? 'pc' : 'tv');
    }

    /** @return list<string> for files converted by {@see toVideo} */
    public static function video(FrameFormat $format): array
    {
        return self::options($format, self::matrix($format), 'tv');
    }

    /** The filter that brings the stored form to Y'CbCr in video range. */
    public static function toVideo(FrameFormat $format): string
    {
        return 'scale=flags=bicubic+accurate_rnd+full_chroma_int:out_color_matrix=' . self::matrix($format) . ':out_range=tv';
    }

    private static function matrix(FrameFormat $format): string
    {
        return $format->matrix === YuvMatrix::Bt601 ? 'smpte170m' : 'bt709';
    }

    /** @return list<string> */
    private static function options(FrameFormat $format, string $matrix, string $range): array
    {
        return [
            '-color_primaries', $format->matrix === YuvMatrix::Bt601 ? 'smpte170m' : 'bt709',
            '-color_trc', $format->transfer === Transfer::Srgb ? 'iec61966-2-1' : 'bt709',
            '-colorspace', $matrix,
            '-color_range', $range,
        ];
    }
}
