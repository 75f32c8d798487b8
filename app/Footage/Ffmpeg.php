<?php

declare(strict_types=1);

namespace App\Footage;

use Symfony\Component\Process\Exception\ProcessTimedOutException;
use Symfony\Component\Process\Process;

/**
 * The only place that starts ffmpeg and ffprobe. Foreign files are opened with whitelisted protocols, containers and
 * codecs, a bound on the picture's size and a time-out.
 */
final class Ffmpeg
{
    private const FORMATS = 'matroska,ogg,mov';
    private const CODECS = 'vp8,vp9,libdav1d,libaom-av1,av1,h264,hevc,mpeg4,mpeg2video,theora,ffv1,prores,dnxhd,mjpeg,png,tiff,rawvideo,huffyuv,ffvhuff,utvideo,v210,'
        . 'opus,libopus,vorbis,libvorbis,flac,aac,mp3,mp3float,alac,pcm_s16le,pcm_s24le,pcm_s32le,pcm_f32le,pcm_s16be,pcm_s24be';
    private const MOST_PIXELS = 8192 * 8192;

    /** @return list<string> options to stand before the -i of a foreign file */
    public static function guarded(): array
    {
        return ['-protocol_whitelist', 'file', '-format_whitelist', self::FORMATS, '-codec_whitelist', self::CODECS, '-max_pixels', (string) self::MOST_PIXELS];
    }

    /**
     * What ffprobe says of a foreign file.
     *
     * @param list<string> $options
     *
     * @return array<string, mixed>
     *
     * @throws UnreadableFootage
     */
    public static function probe(string $file, array $options, float $timeout): array
    {
        $process = new Process(['ffprobe', '-v', 'error', ...self::guarded(), ...$options, '-of', 'json', '-i', $file], timeout: $timeout);
        try {
            $process->run();
        } catch (ProcessTimedOutException) {
            throw UnreadableFootage::tookTooLong();
        }
        if (!$process->isSuccessful()) {
            throw UnreadableFootage::because(self::lastLine($process->getErrorOutput()));
        }
        $answer = json_decode($process->getOutput(), true);

        return is_array($answer) ? $answer : throw UnreadableFootage::because('its description cannot be read');
    }

    /**
     * Runs ffmpeg to its end.
     *
     * @param list<string>                           $options
     * @param iterable<string>|resource|string|null  $input   for its standard input
     *
     * @throws FfmpegFailed
     */
    public static function run(array $options, mixed $input = null, float $timeout = 3600): void
    {
        $process = new Process(['ffmpeg', '-hide_banner', '-v', 'error', ...($input === null ? ['-nostdin'] : []), ...$options], input: $input, timeout: $timeout);
        try {
            $process->run();
        } catch (ProcessTimedOutException) {
            throw FfmpegFailed::tookTooLong();
        }
        if (!$process->isSuccessful()) {
            throw FfmpegFailed::saying(self::lastLine($process->getErrorOutput()));
        }
    }

    /** The last thing said, without places in memory or on disk. */
    private static function lastLine(string $said): string
    {
        $lines = array_values(array_filter(array_map(trim(...), explode("\n", $said))));
        $line = $lines === [] ? 'no reason given' : $lines[count($lines) - 1];

        return mb_strimwidth((string) preg_replace(['#\[[^\]]*@ 0x[0-9a-f]+\]\s*#', '#(/[^\s:/]+)+/#'], '', $line), 0, 200, '…');
    }
}
