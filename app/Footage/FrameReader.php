<?php

declare(strict_types=1);

namespace App\Footage;

use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\FrameFormat;

/**
 * Decodes frames of footage. Those that are needed once, in order, come straight from ffmpeg; what is looked at again and again is kept
 * by {@see FrameCache}.
 */
final class FrameReader
{
    /** Single frames picked by one ffmpeg at the most: it compares each frame with every one of them. */
    private const SINGLE = 100;

    /**
     * Frames of a span, decoded as they are taken.
     *
     * @param FrameFormat|null $format the size they are wanted in; null for the footage's own
     *
     * @return \Generator<int, Frame> by number
     */
    public function frames(FootageFile $footage, int $from, int $to, ?FrameFormat $format = null): \Generator
    {
        foreach ($this->sizes($footage, $from, $to, [$format ?? $footage->info->format()]) as $number => [$frame]) {
            yield $number => $frame;
        }
    }

    /**
     * Single frames in the footage's own size.
     *
     * @param list<int> $numbers in order
     *
     * @return \Generator<int, Frame> by number
     */
    public function some(FootageFile $footage, array $numbers): \Generator
    {
        foreach (array_chunk($numbers, self::SINGLE) as $some) {
            foreach ($this->read($footage, $some, new Sheet([$footage->info->format()])) as $number => [$frame]) {
                yield $number => $frame;
            }
        }
    }

    /**
     * Frames of a span in several sizes, decoded once.
     *
     * @param non-empty-list<FrameFormat> $formats
     *
     * @return \Generator<int, list<Frame>> by number
     */
    public function sizes(FootageFile $footage, int $from, int $to, array $formats): \Generator
    {
        return $this->read($footage, range($from, $to), new Sheet($formats));
    }

    /**
     * @param non-empty-list<int> $numbers in order
     *
     * @return \Generator<int, list<Frame>>
     */
    private function read(FootageFile $footage, array $numbers, Sheet $sheet): \Generator
    {
        $done = 0;
        foreach (self::ways($footage, $numbers[0]) as $way) {
            $left = array_slice($numbers, $done);
            try {
                foreach (Ffmpeg::pieces([...self::picking($footage, $left, $sheet->filter(), $way), '-f', 'rawvideo'], [$footage->path], $sheet->bytes()) as $bytes) {
                    yield $numbers[$done++] => $sheet->cut($bytes);
                }
            } catch (FfmpegFailed $e) {
                report($e);
            }
            if ($done === count($numbers)) {
                return;
            }
        }

        throw UnreadableFootage::frame($numbers[$done]);
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
     * @param non-empty-list<int> $numbers
     *
     * @return list<string> options for ffmpeg, up to where the frames go
     */
    private static function picking(FootageFile $footage, array $numbers, string $filter, ?float $way): array
    {
        $times = $footage->info->times;
        [$first, $last] = [$numbers[0], $numbers[count($numbers) - 1]];
        $select = sprintf('between(pts,%d,%d)', $times[$first], $times[$last]);
        if ($last - $first >= count($numbers)) {
            $select = implode('+', array_map(static fn(int $number): string => "eq(pts,{$times[$number]})", $numbers));
        }

        return [
            '-copyts',
            ...($way === null ? [] : ['-noaccurate_seek', '-ss', sprintf('%.6F', $way)]),
            ...Ffmpeg::guarded(),
            '-threads', '2',
            '-i', $footage->path,
            '-map', '0:v:0',
            '-vf', "select='{$select}',{$filter}",
            '-fps_mode', 'passthrough',
            '-frames:v', (string) count($numbers),
            '-c:v', 'rawvideo',
        ];
    }
}
