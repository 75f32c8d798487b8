<?php

declare(strict_types=1);

namespace App\Footage;

use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\FrameFormat;
use Cossel\Core\Picture\Layout;

/** One frame in several sizes as one picture, so that a single decode gives them all: one under the other, padded to the widest. */
final class Sheet
{
    private readonly int $width;
    private readonly int $height;

    /** @param non-empty-list<FrameFormat> $formats alike but for their sizes */
    public function __construct(private readonly array $formats)
    {
        $this->width = max(array_map(static fn(FrameFormat $format): int => $format->width, $formats));
        $this->height = array_sum(array_map(static fn(FrameFormat $format): int => $format->height, $formats));
    }

    public function bytes(): int
    {
        return 6 * $this->width * $this->height;
    }

    /** The filter that makes it of a decoded frame. */
    public function filter(): string
    {
        $many = count($this->formats);
        if ($many === 1) {
            return self::conversion($this->formats[0]);
        }
        $split = "split={$many}";
        $stack = $sizes = '';
        foreach ($this->formats as $i => $format) {
            $split .= "[in{$i}]";
            $sizes .= sprintf(';[in%d]%s,pad=%d:%d[out%d]', $i, self::conversion($format), $this->width, $format->height, $i);
            $stack .= "[out{$i}]";
        }

        return "{$split}{$sizes};{$stack}vstack=inputs={$many}";
    }

    /** @return list<Frame> in the order of the formats */
    public function cut(string $bytes): array
    {
        if (count($this->formats) === 1) {
            return [new Frame($this->formats[0], $bytes)];
        }
        $frames = [];
        $top = 0;
        foreach ($this->formats as $format) {
            $planes = '';
            for ($plane = 0; $plane < 3; ++$plane) {
                $at = 2 * $this->width * ($plane * $this->height + $top);
                if ($format->width === $this->width) {
                    $planes .= substr($bytes, $at, $format->planeBytes());
                    continue;
                }
                for ($row = 0; $row < $format->height; ++$row) {
                    $planes .= substr($bytes, $at + 2 * $this->width * $row, 2 * $format->width);
                }
            }
            $frames[] = new Frame($format, $planes);
            $top += $format->height;
        }

        return $frames;
    }

    /** The filter that brings any footage into the stored form; range and matrix stay as they are. */
    private static function conversion(FrameFormat $format): string
    {
        $range = $format->fullRange ? 'pc' : 'tv';
        $pixels = $format->layout === Layout::Yuv ? 'yuv444p16le' : 'gbrp16le';
        $ranges = $format->layout === Layout::Yuv ? ":in_range={$range}:out_range={$range}" : '';

        return "scale={$format->width}:{$format->height}:flags=bicubic+accurate_rnd+full_chroma_int+full_chroma_inp{$ranges},format={$pixels}";
    }
}
