<?php

declare(strict_types=1);

namespace App\Footage;

use Cossel\Core\Colour\Transfer;
use Cossel\Core\Colour\YuvMatrix;
use Cossel\Core\Picture\Layout;

/** Looks at a foreign file and says what it holds, or why it is not taken. */
final class Probe
{
    /** Pixels on a side, after the shape of a pixel is applied: less is no picture, and nothing could be laid out on it. */
    private const LEAST = 16;
    private const INTERLACED = ['tt', 'bb', 'tb', 'bt'];

    /**
     * @throws UnreadableFootage|RefusedFootage
     */
    public function read(string $file): FootageInfo
    {
        $about = Ffmpeg::probe($file, ['-show_streams', '-show_format'], 60, 'look');
        $streams = $about['streams'] ?? [];
        $video = self::first($streams, 'video') ?? throw UnreadableFootage::noVideo();
        $audio = self::first($streams, 'audio');
        [$width, $height] = $this->size($video);
        if (in_array($video['field_order'] ?? '', self::INTERLACED, true)) {
            throw RefusedFootage::interlaced();
        }
        $pixelFormat = (string) ($video['pix_fmt'] ?? '');
        $rgb = preg_match('/^(gbr|rgb|bgr|argb|abgr|pal8)/', $pixelFormat) === 1;
        $notes = preg_match('/^(yuva|gbrap|rgba|bgra|argb|abgr|ya|pal8)/', $pixelFormat) === 1 ? ['The alpha channel is left aside.'] : [];
        $rate = $this->rate($video);
        [$times, $torn] = $this->frames($file);
        $variable = self::isVariable($times, FootageInfo::fraction((string) $video['time_base']), FootageInfo::fraction($rate));
        if ($variable) {
            $notes[] = 'The frame rate varies; each frame keeps its own time.';
        }

        return new FootageInfo(
            $width,
            $height,
            $rate,
            $variable,
            $times,
            (string) $video['time_base'],
            (float) ($about['format']['start_time'] ?? 0),
            (string) $video['codec_name'],
            $pixelFormat,
            self::bits($video, $pixelFormat),
            $rgb ? Layout::Rgb : Layout::Yuv,
            $this->matrix($video, $rgb, $height),
            $rgb || ($video['color_range'] ?? 'tv') === 'pc' || str_starts_with($pixelFormat, 'yuvj'),
            $this->transfer($video),
            array_filter([
                'space' => $video['color_space'] ?? '',
                'transfer' => $video['color_transfer'] ?? '',
                'primaries' => $video['color_primaries'] ?? '',
                'range' => $video['color_range'] ?? '',
            ], static fn(string $tag): bool => $tag !== '' && $tag !== 'unknown' && $tag !== 'reserved'),
            self::timecode($video, self::first($streams, 'data'), $about['format'] ?? []),
            $audio === null ? null : ['codec' => (string) ($audio['codec_name'] ?? 'unknown'), 'channels' => (int) ($audio['channels'] ?? 0), 'rate' => (int) ($audio['sample_rate'] ?? 0)],
            $notes,
            $this->damage($file, $about, $video, $rate, $times, $torn),
        );
    }

    /**
     * @param array<string, mixed> $video
     *
     * @return array{int, int} in square pixels, after rotation
     */
    private function size(array $video): array
    {
        $width = (int) ($video['width'] ?? 0);
        $height = (int) ($video['height'] ?? 0);
        if ($width < 1 || $height < 1) {
            throw UnreadableFootage::noFrames();
        }
        self::checkSize($width, $height);
        $aspect = FootageInfo::fraction(strtr((string) ($video['sample_aspect_ratio'] ?? '1:1'), ':', '/'));
        if ($aspect > 0) {
            $width = (int) round($width * $aspect);
        }
        foreach ($video['side_data_list'] ?? [] as $side) {
            if (abs((int) ($side['rotation'] ?? 0)) % 180 === 90) {
                [$width, $height] = [$height, $width];
            }
        }
        if ($width < self::LEAST || $height < self::LEAST) {
            throw RefusedFootage::tooSmall($width, $height);
        }
        self::checkSize($width, $height);

        return [$width, $height];
    }

    private static function checkSize(int $width, int $height): void
    {
        ['side' => $side, 'pixels' => $pixels] = config('limits.footage');
        if ($width > $side || $height > $side) {
            throw RefusedFootage::tooLarge($width, $height, $side);
        }
        if ($width * $height > $pixels) {
            throw RefusedFootage::tooManyPixels($width, $height, $pixels);
        }
    }

    /**
     * Each frame's time, read by decoding every frame: the only count that is exact for every container.
     *
     * @return array{list<int>, list<int>} times, and the numbers of frames that the decoder complained of
     */
    private function frames(string $file): array
    {
        $limit = (int) config('limits.footage.frames');
        $packets = Ffmpeg::probe($file, ['-select_streams', 'v:0', '-count_packets', '-show_entries', 'stream=nb_read_packets'], 600);
        $count = (int) ($packets['streams'][0]['nb_read_packets'] ?? 0);
        if ($count > $limit) {
            throw RefusedFootage::tooLong($count, $limit);
        }
        $answer = Ffmpeg::probe($file, ['-select_streams', 'v:0', '-show_log', '16', '-show_entries', 'frame=best_effort_timestamp,interlaced_frame:log=level'], 3600);
        $frames = $answer['frames'] ?? [];
        if ($frames === []) {
            throw UnreadableFootage::noFrames();
        }
        $times = $torn = [];
        $interlaced = 0;
        foreach ($frames as $i => $frame) {
            $times[] = (int) ($frame['best_effort_timestamp'] ?? 0);
            $interlaced += (int) ($frame['interlaced_frame'] ?? 0);
            if (($frame['logs'] ?? []) !== []) {
                $torn[] = $i;
            }
        }
        if ($interlaced > count($frames) / 2) {
            throw RefusedFootage::interlaced();
        }
        for ($i = 1, $n = count($times); $i < $n; ++$i) {
            if ($times[$i] <= $times[$i - 1]) {
                throw UnreadableFootage::because("its frame {$i} is not later than the one before");
            }
        }

        return [$times, $torn];
    }

    /**
     * @param array<string, mixed> $about  what ffprobe says of the file
     * @param array<string, mixed> $video
     * @param list<int>            $times
     * @param list<int>            $torn
     *
     * @return list<string>
     */
    private function damage(string $file, array $about, array $video, string $rate, array $times, array $torn): array
    {
        $packets = [];
        $end = 0.0;
        foreach (Ffmpeg::probe($file, ['-show_entries', 'packet=stream_index,pts,pts_time,duration_time,flags'], 600)['packets'] ?? [] as $packet) {
            $end = max($end, (float) ($packet['pts_time'] ?? 0) + (float) ($packet['duration_time'] ?? 0));
            if ($packet['stream_index'] === $video['index'] && !str_contains((string) ($packet['flags'] ?? ''), 'D')) {
                $packets[] = $packet['pts'] ?? null;
            }
        }
        // Containers without times of their own for every frame say nothing of what is lost.
        $shown = in_array(null, $packets, true) ? [] : array_map(intval(...), array_values(array_filter($packets, static fn(?int $time): bool => $time !== null && $time >= $times[0])));

        return Soundness::damage($times, FootageInfo::fraction((string) $video['time_base']), 1 / FootageInfo::fraction($rate), $shown, $this->claimed($about, $video, $rate, $times, $end), $torn, ($about['format']['format_name'] ?? '') !== 'ogg' || OggPages::haveEnds($file));
    }

    /**
     * Seconds that the file says its picture lasts. What is said of the whole file holds for the longest of its streams, so it
     * counts only where none is so long.
     *
     * @param array<string, mixed> $about
     * @param array<string, mixed> $video
     * @param list<int>            $times
     * @param float                $end   of the last packet of any stream, seconds
     */
    private function claimed(array $about, array $video, string $rate, array $times, float $end): ?float
    {
        $fps = FootageInfo::fraction($rate);
        if (isset($video['nb_frames'])) {
            return (int) $video['nb_frames'] / $fps;
        }
        $whole = (float) ($about['format']['duration'] ?? 0);
        $begins = (float) ($about['format']['start_time'] ?? 0);
        $first = $times[0] * FootageInfo::fraction((string) $video['time_base']);

        return $whole > $end - $begins + 1.5 / $fps ? $whole - ($first - $begins) : null;
    }

    /** @param array<string, mixed> $video */
    private function rate(array $video): string
    {
        foreach (['r_frame_rate', 'avg_frame_rate'] as $field) {
            $rate = (string) ($video[$field] ?? '');
            $value = FootageInfo::fraction($rate === '' ? '0/1' : $rate);
            if ($value > 0 && $value <= 1000) {
                return $rate;
            }
        }

        return '24/1';
    }

    /** @param list<int> $times */
    private static function isVariable(array $times, float $unit, float $fps): bool
    {
        foreach ($times as $i => $time) {
            // Containers that count in milliseconds round each time; that is not a varying rate.
            if (abs(($time - $times[0]) * $unit - $i / $fps) > max(1.01 * $unit, 0.0015)) {
                return true;
            }
        }

        return false;
    }

    /** @param array<string, mixed> $video */
    private static function bits(array $video, string $pixelFormat): int
    {
        $raw = (int) ($video['bits_per_raw_sample'] ?? 0);
        if ($raw > 0) {
            return $raw;
        }

        return preg_match('/(?:p|gray|rgb|bgr)(9|10|12|14|16|48|64)(?:le|be)?\z/', $pixelFormat, $m) === 1 ? min(16, (int) $m[1]) : 8;
    }

    /** @param array<string, mixed> $video */
    private function matrix(array $video, bool $rgb, int $height): YuvMatrix
    {
        $name = (string) ($video['color_space'] ?? 'unknown');

        return match (true) {
            $rgb, $name === 'bt709' => YuvMatrix::Bt709,
            in_array($name, ['bt470bg', 'smpte170m'], true) => YuvMatrix::Bt601,
            in_array($name, ['unknown', 'reserved', 'gbr'], true) => $height >= 720 ? YuvMatrix::Bt709 : YuvMatrix::Bt601,
            default => throw RefusedFootage::matrix($name),
        };
    }

    /** @param array<string, mixed> $video */
    private function transfer(array $video): Transfer
    {
        $primaries = (string) ($video['color_primaries'] ?? 'unknown');
        if (!in_array($primaries, ['bt709', 'smpte170m', 'bt470bg', 'unknown', 'reserved'], true)) {
            throw RefusedFootage::primaries($primaries);
        }
        $name = (string) ($video['color_transfer'] ?? 'unknown');

        return match (true) {
            in_array($name, ['bt709', 'smpte170m', 'bt470bg', 'unknown', 'reserved'], true) => Transfer::Bt1886,
            $name === 'iec61966-2-1' => Transfer::Srgb,
            default => throw RefusedFootage::transfer($name),
        };
    }

    /** @param array<string, mixed>|null ...$places where containers keep it, in lower or upper case */
    private static function timecode(?array ...$places): ?string
    {
        foreach ($places as $place) {
            $tags = array_change_key_case($place['tags'] ?? []);
            if (isset($tags['timecode'])) {
                return (string) $tags['timecode'];
            }
        }

        return null;
    }

    /**
     * @param list<array<string, mixed>> $streams
     *
     * @return array<string, mixed>|null
     */
    private static function first(array $streams, string $type): ?array
    {
        foreach ($streams as $stream) {
            if (($stream['codec_type'] ?? '') === $type && ($stream['disposition']['attached_pic'] ?? 0) !== 1) {
                return $stream;
            }
        }

        return null;
    }
}
