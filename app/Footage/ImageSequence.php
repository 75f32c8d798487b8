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
     * @param string $rate frames a second as a fraction
     *
     * @throws UnreadableFootage|RefusedFootage
     */
    public function toFootage(string $archive, string $file, string $rate = '24/1'): void
    {
        $folder = "{$file}.frames";
        $this->files->deleteDirectory($folder);
        $this->files->makeDirectory($folder, recursive: true);
        try {
            $type = $this->unpack($archive, $folder);
            Ffmpeg::run([
                '-protocol_whitelist', 'file', '-codec_whitelist', 'png,tiff', '-max_pixels', (string) 8192 ** 2,
                '-f', 'image2', '-framerate', $rate, '-c:v', self::TYPES[$type], '-i', "{$folder}/%08d.{$type}",
                '-pix_fmt', 'gbrp16le', '-c:v', 'ffv1', '-level', '3', '-g', '1', '-slicecrc', '1',
                '-color_trc', 'iec61966-2-1', '-color_primaries', 'bt709', '-colorspace', 'rgb', '-color_range', 'pc',
                '-f', 'matroska', $file,
            ]);
        } catch (FfmpegFailed $e) {
            throw UnreadableFootage::archive($e->getMessage());
        } finally {
            $this->files->deleteDirectory($folder);
        }
    }

    /** @return string the file type of all its pictures */
    private function unpack(string $archive, string $folder): string
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
        if (count($names) > config('cossel.footage.most_frames')) {
            throw RefusedFootage::tooLong(count($names), (int) config('cossel.footage.most_frames'));
        }
        if ($bytes > config('cossel.footage.most_unpacked_bytes')) {
            throw RefusedFootage::unpackedSize((int) config('cossel.footage.most_unpacked_bytes'));
        }
        $type = reset($names);
        $ordered = array_keys($names);
        natsort($ordered);
        $size = null;
        $left = (int) config('cossel.footage.most_unpacked_bytes');
        foreach (array_values($ordered) as $number => $name) {
            $target = sprintf('%s/%08d.%s', $folder, $number, $type);
            $left -= $this->extract($zip, $name, $target, $left);
            $found = $type === 'png' ? @getimagesize($target) : null;
            if ($found === false || ($size !== null && $found !== null && [$found[0], $found[1]] !== $size)) {
                throw UnreadableFootage::archive($found === false ? "{$name} is not a picture" : "{$name} has another size than the pictures before it");
            }
            $size = $found === null ? null : [$found[0], $found[1]];
        }
        $zip->close();

        return $type;
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
        $written = stream_copy_to_stream($from, $to, $most + 1);
        fclose($from);
        fclose($to);
        if ($written === false) {
            throw UnreadableFootage::archive("{$name} cannot be unpacked");
        }
        if ($written > $most) {
            throw RefusedFootage::unpackedSize((int) config('cossel.footage.most_unpacked_bytes'));
        }

        return $written;
    }
}
