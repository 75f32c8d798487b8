<?php

declare(strict_types=1);

namespace App\Deliveries;

use App\Footage\FootageInfo;
use Cossel\Core\Picture\FrameFormat;
use Cossel\Core\Picture\Layout;
use Illuminate\Support\Facades\Cache;
use Symfony\Component\Process\Process;

/** How each format is encoded. */
final class Encoding
{
    private const LOSSLESS = ['-c:v', 'ffv1', '-level', '3', '-coder', '1', '-g', '1', '-slices', '4', '-slicecrc', '1'];

    /** Whether the ffmpeg that is installed can write a format. */
    public static function isThere(Format $format): bool
    {
        $encoders = Cache::remember('encoders', 600, static function (): array {
            $told = (new Process(['ffmpeg', '-hide_banner', '-v', 'error', '-encoders'], timeout: 30))->mustRun()->getOutput();
            preg_match_all('/^ [VAS][F.][S.][X.][B.][D.] (\S+)/m', $told, $m);

            return $m[1];
        });

        return in_array($format->encoder(), $encoders, true);
    }

    /** @throws DeliveryNotReady saying what lacks */
    public static function check(Format $format): void
    {
        self::isThere($format) || throw DeliveryNotReady::lacks($format->label(), $format->encoder());
    }

    public static function pixels(FrameFormat $format): string
    {
        return $format->layout === Layout::Yuv ? 'yuv444p16le' : 'gbrp16le';
    }

    /** @return list<string> the encoding of lossless masters, in the stored form itself */
    public static function master(FrameFormat $format): array
    {
        return ['-pix_fmt', self::pixels($format), ...self::LOSSLESS, ...ColourTags::stored($format)];
    }

    /** @return list<string> for parts that are encoded once more: a third of the time of a master's, at twice the size */
    public static function passing(FrameFormat $format): array
    {
        return ['-pix_fmt', self::pixels($format), '-c:v', 'ffvhuff', '-pred', 'median', ...ColourTags::stored($format)];
    }

    /** @return list<string> for parts and pictures of linear light */
    public static function linear(): array
    {
        return ['-c:v', 'exr', '-format', 'half', '-compression', 'zip16'];
    }

    /** @return list<string> of a film's pictures, colour tags included */
    public static function film(Format $format, FootageInfo $info): array
    {
        $stored = $info->format();
        $video = ColourTags::video($stored);

        return match ($format) {
            Format::Ffv1 => self::master($stored),
            Format::Ffv1TenBit => ['-pix_fmt', $info->layout === Layout::Yuv ? 'yuv444p10le' : 'gbrp10le', ...self::LOSSLESS, ...ColourTags::stored($stored)],
            Format::ProRes => ['-pix_fmt', 'yuv422p10le', '-c:v', 'prores_ks', '-profile:v', 'hq', ...$video],
            Format::Av1 => ['-pix_fmt', 'yuv420p10le', '-c:v', 'libsvtav1', '-crf', '20', '-preset', '8', ...$video],
            default => ['-pix_fmt', 'yuv420p', '-c:v', 'libvpx-vp9', '-crf', '16', '-b:v', '0', '-row-mt', '1', '-cpu-used', '4', '-deadline', 'good', ...$video],
        };
    }

    /** @return list<string> of single pictures */
    public static function pictures(Format $format): array
    {
        return match ($format) {
            Format::Exr => ['-c:v', 'copy'],
            Format::Tiff => ['-pix_fmt', 'rgb48le', '-c:v', 'tiff', '-compression_algo', 'deflate'],
            default => ['-pix_fmt', 'rgb48be', '-c:v', 'png', '-compression_level', '4'],
        };
    }

    /** Whether it is stored as Y'CbCr in video range. */
    public static function isVideo(Format $format): bool
    {
        return in_array($format, [Format::ProRes, Format::Av1, Format::Vp9], true);
    }

    /**
     * @param bool $whole whether all of the footage is delivered, so that its sound can stay as it is
     *
     * @return list<string>
     */
    public static function sound(Format $format, string $codec, bool $whole): array
    {
        return match ($format) {
            Format::Vp9, Format::Av1 => $whole && $codec === 'opus' ? ['-c:a', 'copy'] : ['-c:a', 'libopus', '-b:a', '160k'],
            Format::ProRes => ['-c:a', 'pcm_s24le'],
            default => $whole ? ['-c:a', 'copy'] : ['-c:a', 'pcm_s24le'],
        };
    }

    public static function container(Format $format): string
    {
        return match ($format->extension()) {
            'mkv' => 'matroska',
            default => $format->extension(),
        };
    }
}
