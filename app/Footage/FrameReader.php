<?php

declare(strict_types=1);

namespace App\Footage;

use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\FrameFormat;
use Cossel\Core\Picture\Layout;

/**
 * Decodes frames of footage. Those that are needed once, in order, come straight from ffmpeg; what is looked at again and again is kept
 * by {@see FrameCache}.
 */
final class FrameReader
{
    /**
     * Frames of a span, decoded as they are taken.
     *
     * @param FrameFormat|null $format the size they are wanted in; null for the footage's own
     *
     * @return \Generator<int, Frame> by number
     */
    public function frames(FootageFile $footage, int $from, int $to, ?FrameFormat $format = null): \Generator
    {
        $format ??= $footage->info->format();
        $next = $from;
        foreach (self::ways($footage, $from) as $way) {
            try {
                foreach (Ffmpeg::pieces([...self::picking($footage, $next, $to, $format, $way), '-f', 'rawvideo'], [$footage->path], $format->bytes()) as $bytes) {
                    yield $next++ => new Frame($format, $bytes);
                }
            } catch (FfmpegFailed $e) {
                report($e);
            }
            if ($next > $to) {
                return;
            }
        }

        throw UnreadableFootage::frame($next);
    }

    /**
     * Where to begin reading to come to a frame, in seconds from the start, null for the start itself: a little before it, and where
     * that does not lead there, from the start.
     *
     * @return non-empty-list<float|null>
     */
    private static function ways(FootageFile $footage, int $first): array
    {
        if (!is_file($footage->path)) {
            throw UnreadableFootage::gone($footage->name);
        }

        return $first === 0 ? [null] : [max(0.0, $footage->info->seconds($first) - $footage->info->start - 0.5), null];
    }

    /**
     * Picks frames by their exact times, so that it does not matter where a seek really lands.
     *
     * @return list<string> options for ffmpeg, up to where the frames go
     */
    private static function picking(FootageFile $footage, int $first, int $last, FrameFormat $format, ?float $way): array
    {
        return [
            '-copyts',
            ...($way === null ? [] : ['-noaccurate_seek', '-ss', sprintf('%.6F', $way)]),
            ...Ffmpeg::guarded(),
            '-threads', '2',
            '-i', $footage->path,
            '-map', '0:v:0',
            '-vf', sprintf("select='between(pts,%d,%d)',%s", $footage->info->times[$first], $footage->info->times[$last], self::conversion($format)),
            '-fps_mode', 'passthrough',
            '-frames:v', (string) ($last - $first + 1),
            '-c:v', 'rawvideo',
        ];
    }

    /** The filter that brings any footage into the stored form; range and matrix stay as they are. */
    public static function conversion(FrameFormat $format): string
    {
        $range = $format->fullRange ? 'pc' : 'tv';
        $pixels = $format->layout === Layout::Yuv ? 'yuv444p16le' : 'gbrp16le';
        $ranges = $format->layout === Layout::Yuv ? ":in_range={$range}:out_range={$range}" : '';

        return "scale={$format->width}:{$format->height}:flags=bicubic+accurate_rnd+full_chroma_int+full_chroma_inp{$ranges},format={$pixels}";
    }
}
