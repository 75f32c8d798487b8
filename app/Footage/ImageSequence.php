<?php

declare(strict_types=1);

namespace App\Footage;

use Illuminate\Filesystem\Filesystem;

/**
 * A zipped sequence of PNG or TIFF pictures, kept losslessly as one FFV1 file so that everything after it is the same
 * as for any other footage.
 */
final class ImageSequence
{
    private const TYPES = ['png' => 'png', 'tif' => 'tiff', 'tiff' => 'tiff'];

    public function __construct(private readonly Filesystem $files) {}

    public static function isArchive(string $file): bool
    {
        return @file_get_contents($file, length: 4) === "PK\x03\x04";
    }

    /**
     * Pictures that are missing by their numbers, or that cannot be decoded, are told of; the one before stands in for one
     * that cannot be decoded, so that all others keep their place.
     *
     * @param string $rate frames a second as a fraction
     *
     * @return list<string> what is missing or torn, in sentences
     *
     * @throws UnreadableFootage|RefusedFootage
     */
    public function toFootage(string $archive, string $file, string $rate = '24/1'): array
    {
        $folder = "{$file}.frames";
        $this->files->deleteDirectory($folder);
        $this->files->makeDirectory($folder, recursive: true);
        try {
            [$type, $names] = $this->unpack($archive, $folder);
            $pictures = "{$folder}/%08d.{$type}";
            $damage = [...self::gaps($names), ...$this->mend($names, $pictures)];
            Ffmpeg::run([
                ...self::pictures(), '-framerate', $rate, '-c:v', self::TYPES[$type], '-i', $pictures,
                '-pix_fmt', 'gbrp16le', '-c:v', 'ffv1', '-level', '3', '-g', '1', '-slicecrc', '1',
                '-color_trc', 'iec61966-2-1', '-color_primaries', 'bt709', '-colorspace', 'rgb', '-color_range', 'pc',
                '-f', 'matroska', '-y', "{$folder}/whole.mkv",
            ], [], [$folder]);
            rename("{$folder}/whole.mkv", $file);

            return $damage;
        } catch (FfmpegFailed $e) {
            throw UnreadableFootage::archive($e->getMessage());
        } finally {
            $this->files->deleteDirectory($folder);
        }
    }

    /** @return list<string> options to stand before the -i of a folder's pictures */
    private static function pictures(): array
    {
        return ['-protocol_whitelist', 'file', '-codec_whitelist', 'png,tiff', '-max_pixels', (string) config('limits.footage.pixels'), '-f', 'image2'];
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
     * @param list<string> $names in order
     *
     * @return list<string>
     */
    private function mend(array $names, string $pictures): array
    {
        $answer = Ffmpeg::probePictures([...self::pictures(), '-framerate', '1', '-show_log', '16', '-show_entries', 'frame=best_effort_timestamp:log=level'], $pictures);
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
            isset($isBroken[$number]) ? copy(sprintf($pictures, $before), sprintf($pictures, $number)) : $before = $number;
        }
        $told = static fn(array $numbers): string => Soundness::listed(array_map(static fn(int $number): string => basename($names[$number]), $numbers));

        return [
            ...($broken === [] ? [] : [sprintf('%s cannot be decoded; the picture before stands in.', $told($broken))]),
            ...($torn === [] ? [] : [sprintf('%s may be torn.', $told($torn))]),
        ];
    }

    /** @return array{string, list<string>} the file type of all its pictures, and their names in order */
    private function unpack(string $archive, string $folder): array
    {
        $zip = new \ZipArchive();
        if ($zip->open($archive, \ZipArchive::RDONLY) !== true) {
            throw UnreadableFootage::archive('it is damaged');
        }
        $names = [];
        $bytes = 0;
        for ($i = 0; $i < $zip->numFiles; ++$i) {
            $stat = $zip->statIndex($i);
            $name = $stat === false ? '' : $stat['name'];
            $type = strtolower(pathinfo($name, PATHINFO_EXTENSION));
            if ($stat === false || !isset(self::TYPES[$type]) || str_starts_with(basename($name), '.')) {
                continue;
            }
            $names[$name] = $type;
            $bytes += $stat['size'];
        }
        if ($names === []) {
            throw UnreadableFootage::archive('it holds no PNG or TIFF pictures');
        }
        if (count(array_unique($names)) > 1) {
            throw UnreadableFootage::archive('its pictures are of different types');
        }
        if (count($names) > config('limits.footage.frames')) {
            throw RefusedFootage::tooLong(count($names), (int) config('limits.footage.frames'));
        }
        if ($bytes > config('limits.footage.unpacked_bytes')) {
            throw RefusedFootage::unpackedSize((int) config('limits.footage.unpacked_bytes'));
        }
        $type = reset($names);
        $ordered = array_keys($names);
        natsort($ordered);
        $size = null;
        $left = (int) config('limits.footage.unpacked_bytes');
        foreach (array_values($ordered) as $number => $name) {
            $target = sprintf('%s/%08d.%s', $folder, $number, $type);
            $left -= $this->extract($zip, $name, $target, min($left, (int) config('limits.footage.picture_bytes')));
            $found = @getimagesize($target);
            if ($found !== false && $size !== null && [$found[0], $found[1]] !== $size) {
                throw UnreadableFootage::archive("{$name} has another size than the pictures before it");
            }
            $size = $found === false ? $size : [$found[0], $found[1]];
        }
        $zip->close();

        return [$type, array_values($ordered)];
    }

    /**
     * @param int $most bytes it may unpack to; what the archive says of that is not to be trusted
     *
     * @return int bytes it has unpacked to
     */
    private function extract(\ZipArchive $zip, string $name, string $target, int $most): int
    {
        $from = $zip->getStream($name);
        $to = fopen($target, 'w');
        if ($from === false || $to === false) {
            throw UnreadableFootage::archive("{$name} cannot be unpacked");
        }
        // What is wrong with a picture shows when it is decoded.
        $written = @stream_copy_to_stream($from, $to, $most + 1);
        fclose($from);
        fclose($to);
        if ($written === false) {
            throw UnreadableFootage::archive("{$name} cannot be unpacked");
        }
        if ($written > $most) {
            throw RefusedFootage::unpackedSize($most < (int) config('limits.footage.picture_bytes') ? (int) config('limits.footage.unpacked_bytes') : $most);
        }

        return $written;
    }
}
