<?php

declare(strict_types=1);

namespace App\Footage;

use Cossel\Core\Colour\Transfer;
use Cossel\Core\Picture\FrameFormat;
use Cossel\Core\Picture\FromLinear;
use Illuminate\Filesystem\Filesystem;

/**
 * A sequence of pictures, zipped or in a folder, kept losslessly as one FFV1 file so that everything after it is the same
 * as for any other footage.
 */
final class ImageSequence
{
    private const LOSSLESS = ['-c:v', 'ffv1', '-level', '3', '-g', '1', '-slicecrc', '1'];
    private const USUAL_RATE = '24/1';

    public function __construct(private readonly Filesystem $files) {}

    public static function is(string $path): bool
    {
        return is_dir($path) || Pictures::isArchive($path);
    }

    /** What a sequence is known by: the content of an archive, or the names and contents of all in a folder. */
    public static function sha256(string $path): string
    {
        if (!is_dir($path)) {
            return (string) hash_file('sha256', $path);
        }
        $whole = hash_init('sha256');
        foreach (array_filter(scandir($path) ?: [], static fn(string $name): bool => is_file("{$path}/{$name}")) as $name) {
            hash_update($whole, "{$name}\0" . hash_file('sha256', "{$path}/{$name}", true));
        }

        return hash_final($whole);
    }

    /**
     * Pictures that are missing by their numbers, or that cannot be decoded, are told of; the one before stands in for one
     * that cannot be decoded, so that all others keep their place.
     *
     * @param string $from archive or folder
     *
     * @return list<string> what is missing, torn or doubtful, in sentences
     *
     * @throws UnreadableFootage|RefusedFootage
     */
    public function toFootage(string $from, string $file): array
    {
        $folder = "{$file}.frames";
        $this->files->deleteDirectory($folder);
        $this->files->makeDirectory($folder, recursive: true);
        try {
            $pictures = Pictures::gather($from, $folder);
            $headers = $pictures->headers();
            $header = $headers[0];
            $told = [...self::gaps($pictures->names), ...$this->mend($pictures, $headers), ...($header->doubt === null ? [] : [$header->doubt])];
            $rate = $header->rate ?? self::USUAL_RATE;
            $tags = [...self::LOSSLESS, ...($header->timecode === null ? [] : ['-metadata', "timecode={$header->timecode}"]), '-f', 'matroska', '-y', "{$folder}/whole.mkv"];
            if ($header->transfer === null) {
                array_push($told, ...self::fromLinear($pictures, $rate, $folder, $tags));
            } else {
                Ffmpeg::run([
                    ...$pictures->options(), '-framerate', $rate, '-c:v', Pictures::CODECS[$pictures->type], '-i', $pictures->pattern(),
                    '-vf', 'scale=flags=bicubic+accurate_rnd+full_chroma_int+full_chroma_inp', '-pix_fmt', 'gbrp16le',
                    '-color_trc', $header->transfer, '-color_primaries', 'bt709', '-colorspace', 'rgb', '-color_range', 'pc', ...$tags,
                ], [], [$folder], work: 'read');
            }
            rename("{$folder}/whole.mkv", $file);

            return $told;
        } catch (FfmpegFailed $e) {
            throw UnreadableFootage::archive($e->getMessage());
        } finally {
            $this->files->deleteDirectory($folder);
        }
    }

    /**
     * Linear light is kept with the transfer of sRGB as Y'CbCr in video range, which has room above white.
     *
     * @param list<string> $output options
     *
     * @return list<string>
     */
    private static function fromLinear(Pictures $pictures, string $rate, string $folder, array $output): array
    {
        [$width, $height] = Ffmpeg::pictureSize($pictures->options(), $pictures->file(0));
        $format = new FrameFormat($width, $height, transfer: Transfer::Srgb);
        $beyond = [];
        $frames = (static function () use ($pictures, $rate, $folder, $format, &$beyond): \Generator {
            $number = 0;
            $options = [...$pictures->options(), '-framerate', $rate, '-c:v', 'exr', '-i', $pictures->pattern(), '-fps_mode', 'passthrough', '-f', 'rawvideo', '-pix_fmt', 'gbrpf32le'];
            foreach (Ffmpeg::pieces($options, [$folder], 12 * $format->width * $format->height) as $floats) {
                [$frame, $cut] = FromLinear::frame($floats, $format);
                $cut === 0 ?: $beyond[] = $number;
                ++$number;
                yield from str_split($frame->bytes, 262144);
            }
        })();
        Ffmpeg::run([
            '-f', 'rawvideo', '-pix_fmt', 'yuv444p16le', '-s', "{$format->width}x{$format->height}", '-r', $rate, '-color_range', 'tv', '-i', 'pipe:0',
            '-pix_fmt', 'yuv444p16le', '-color_trc', 'iec61966-2-1', '-color_primaries', 'bt709', '-colorspace', 'bt709', '-color_range', 'tv', ...$output,
        ], [], [$folder], $frames, work: 'read');

        return $beyond === [] ? [] : [sprintf('On %d of %d frames there is light of more than 1.2 times white; it is cut off there.', count($beyond), count($pictures->names))];
    }

    /**
     * @param list<string> $names in order
     *
     * @return list<string> where numbers are left out
     */
    private static function gaps(array $names): array
    {
        $missing = [];
        $before = null;
        foreach ($names as $name) {
            if (preg_match('/(\d+)\D*\z/', pathinfo($name, PATHINFO_FILENAME), $m) !== 1) {
                return [];
            }
            for ($number = ($before ?? (int) $m[1]) + 1; $number < (int) $m[1] && count($missing) < 1000; ++$number) {
                $missing[] = $number;
            }
            $before = (int) $m[1];
        }

        return $missing === [] ? [] : [sprintf('By their numbers pictures are missing: %s.', Soundness::listed(Soundness::runs($missing)))];
    }

    /**
     * @param list<PictureHeader> $headers
     *
     * @return list<string>
     */
    private function mend(Pictures $pictures, array $headers): array
    {
        $names = $pictures->names;
        $answer = Ffmpeg::probePictures([...$pictures->options(), '-framerate', '1', '-show_log', '16', '-show_entries', 'frame=best_effort_timestamp:log=level'], $pictures->pattern());
        $good = $torn = [];
        foreach ($answer as $frame) {
            $number = (int) ($frame['best_effort_timestamp'] ?? -1);
            ($frame['logs'] ?? []) === [] ? $good[$number] = true : $torn[] = $number;
        }
        $broken = array_values(array_diff(array_keys($names), array_keys($good), $torn));
        if (count($broken) === count($names)) {
            throw UnreadableFootage::archive('none of its pictures can be decoded');
        }
        $isBroken = array_fill_keys($broken, true);
        $before = array_key_first(array_diff_key($names, $isBroken));
        foreach (array_keys($names) as $number) {
            isset($isBroken[$number]) ? copy($pictures->file($before), $pictures->file($number)) : $before = $number;
        }
        $told = static fn(array $numbers): string => Soundness::listed(array_map(static fn(int $number): string => basename($names[$number]), $numbers));
        $short = array_filter($headers, static fn(PictureHeader $header): bool => $header->rows !== null);
        $short = array_diff_key($short, $isBroken);
        $torn = array_values(array_diff($torn, array_keys($short)));
        $ends = array_map(static fn(int $number, PictureHeader $header): string => basename($names[$number]) . ($header->rows > 0 && $header->size !== null ? " ({$header->rows} of {$header->size[1]} rows)" : ''), array_keys($short), $short);

        return [
            ...($broken === [] ? [] : [sprintf('%s cannot be decoded; the picture before stands in.', $told($broken))]),
            ...($ends === [] ? [] : [sprintf('%s %s; what is missing may be black.', Soundness::listed($ends), count($ends) === 1 ? 'ends early' : 'end early')]),
            ...($torn === [] ? [] : [sprintf('%s may be torn.', $told($torn))]),
        ];
    }
}
