<?php

declare(strict_types=1);

namespace App\Deliveries;

use App\Footage\Ffmpeg;
use App\Footage\FootageFile;
use App\Footage\FrameReader;
use App\Pictures\TooCostly;
use Cossel\Core\Picture\Bytes;
use Cossel\Core\Picture\Frame;
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
        $frames = (function () use ($renderer, $for, $footage, $format, $from, $to, $onFrame): \Generator {
            foreach ($this->reader->frames($footage, $from, $to) as $number => $frame) {
                TooCostly::check($renderer, $frame, $number, $format->rect(), 'delivery');
                // In pieces, because what a pipe does not take at once is copied.
                yield from self::pieces($for->isLinear() ? self::linear($renderer, $frame, $number) : $renderer->frame($frame, $number));
                if (!$onFrame($number)) {
                    throw Cancelled::byUser();
                }
            }
        })();
        try {
            Ffmpeg::run([
                '-f', 'rawvideo', '-pix_fmt', $for->isLinear() ? 'gbrpf32le' : Encoding::pixels($format), '-s', "{$format->width}x{$format->height}", '-r', $footage->info->rate, '-i', 'pipe:0',
                ...match (true) {
                    $for->isLinear() => Encoding::linear(),
                    $for->copies($footage->info) => Encoding::master($format),
                    default => Encoding::passing($format),
                },
                '-threads', '1', '-f', 'matroska', '-y', $work,
            ], [], [dirname($file)], $frames);
            rename($work, $file);
        } finally {
            @unlink($work);
        }
    }

    /** A treated frame as linear light: planes of floats, green, blue, red. */
    private static function linear(FrameRenderer $renderer, Frame $frame, int $number): string
    {
        $planes = ['', '', ''];
        foreach ($renderer->bands($frame, $number, $frame->format->rect()) as $band) {
            foreach (Bytes::linear($band, $frame->format->transfer) as $k => $bytes) {
                $planes[$k] .= $bytes;
            }
        }

        return implode('', $planes);
    }

    /** @return \Generator<int, string> */
    private static function pieces(string $bytes): \Generator
    {
        for ($at = 0, $end = strlen($bytes); $at < $end; $at += 262144) {
            yield substr($bytes, $at, 262144);
        }
    }
}
