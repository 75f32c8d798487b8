<?php

declare(strict_types=1);

namespace App\Deliveries;

use App\Footage\Ffmpeg;
use App\Footage\FootageFile;
use App\Footage\FrameReader;
use App\Pictures\TooCostly;
use Cossel\Core\Picture\FrameFormat;
use Cossel\Core\Picture\Layout;
use Cossel\Core\Render\FrameRenderer;
use Illuminate\Filesystem\Filesystem;

/**
 * Renders a range of frames to a lossless part file. The file appears under its name only when it is whole, so a part
 * that was broken off is simply made again.
 */
final class PartRenderer
{
    public function __construct(private readonly FrameReader $reader, private readonly Filesystem $files) {}

    /**
     * @param Format              $for     what the delivery becomes: what is encoded once more is only packed as quickly as can be
     * @param callable(int): bool $onFrame told of each frame rendered; false cancels
     *
     * @throws Cancelled
     */
    public function render(FootageFile $footage, FrameRenderer $renderer, Format $for, int $from, int $to, string $file, callable $onFrame): void
    {
        $format = $footage->info->format();
        $work = sprintf('%s.%d.part', $file, getmypid());
        $this->files->makeDirectory(dirname($file), recursive: true, force: true);
        $frames = (function () use ($renderer, $footage, $format, $from, $to, $onFrame): \Generator {
            foreach ($this->reader->frames($footage, $from, $to) as $number => $frame) {
                TooCostly::check($renderer, $frame, $number, $format->rect(), 'delivery');
                // In pieces, because what a pipe does not take at once is copied.
                yield from self::pieces($renderer->frame($frame, $number));
                if (!$onFrame($number)) {
                    throw Cancelled::byUser();
                }
            }
        })();
        try {
            Ffmpeg::run([
                '-f', 'rawvideo', '-pix_fmt', self::pixels($format), '-s', "{$format->width}x{$format->height}", '-r', $footage->info->rate, '-i', 'pipe:0',
                ...($for->copies($footage->info) ? self::master($format) : self::passing($format)),
                '-threads', '1', '-f', 'matroska', '-y', $work,
            ], [], [dirname($file)], $frames);
            rename($work, $file);
        } finally {
            @unlink($work);
        }
    }

    public static function pixels(FrameFormat $format): string
    {
        return $format->layout === Layout::Yuv ? 'yuv444p16le' : 'gbrp16le';
    }

    /** @return list<string> the encoding of lossless masters, in the stored form itself */
    public static function master(FrameFormat $format): array
    {
        return ['-pix_fmt', self::pixels($format), '-c:v', 'ffv1', '-level', '3', '-coder', '1', '-g', '1', '-slices', '4', '-slicecrc', '1', ...ColourTags::stored($format)];
    }

    /** @return list<string> a third of the time of a master's, at twice the size */
    private static function passing(FrameFormat $format): array
    {
        return ['-pix_fmt', self::pixels($format), '-c:v', 'ffvhuff', '-pred', 'median', ...ColourTags::stored($format)];
    }

    /** @return \Generator<int, string> */
    private static function pieces(string $bytes): \Generator
    {
        for ($at = 0, $end = strlen($bytes); $at < $end; $at += 262144) {
            yield substr($bytes, $at, 262144);
        }
    }
}
