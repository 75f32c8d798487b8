<?php

declare(strict_types=1);

namespace App\Footage;

use App\Bundles\BundleWriter;

/**
 * The pictures of a sequence out of a zip archive or a folder, numbered anew into a folder of ours: all of one type, within
 * the limits, whatever an archive says of itself.
 */
final readonly class Pictures
{
    /** File types by their endings, as ffmpeg names their codecs. */
    public const CODECS = ['png' => 'png', 'tif' => 'tiff', 'tiff' => 'tiff', 'jpg' => 'mjpeg', 'jpeg' => 'mjpeg', 'dpx' => 'dpx', 'exr' => 'exr'];
    /** What lies beside them and tells of them. */
    public const ABOUT = 'sequence.json';

    /**
     * @param string       $type  ending of their names
     * @param list<string> $names as they were, in order
     * @param string       $about what lies beside them and tells of them, JSON; empty where nothing does
     */
    private function __construct(public string $folder, public string $type, public array $names, private string $about) {}

    public static function isArchive(string $file): bool
    {
        return is_file($file) && @file_get_contents($file, length: 4) === "PK\x03\x04";
    }

    /**
     * @param string $from archive or folder
     *
     * @throws UnreadableFootage|RefusedFootage
     */
    public static function gather(string $from, string $folder): self
    {
        if (is_dir($from)) {
            $sizes = [];
            foreach (new \DirectoryIterator($from) as $file) {
                $file->isFile() && $sizes[$file->getFilename()] = $file->getSize();
            }
            $ordered = self::chosen($sizes, 'this folder');
            $take = static fn(string $name, string $target, int $most): int => filesize("{$from}/{$name}") <= $most && copy("{$from}/{$name}", $target) ? (int) filesize($target) : throw RefusedFootage::unpackedSize($most);

            return self::taken($folder, $ordered, $take, (string) @file_get_contents("{$from}/" . self::ABOUT, length: 10_000));
        }
        $zip = new \ZipArchive();
        if ($zip->open($from, \ZipArchive::RDONLY) !== true) {
            throw UnreadableFootage::archive('it is damaged');
        }
        $sizes = [];
        for ($i = 0; $i < $zip->numFiles; ++$i) {
            $stat = $zip->statIndex($i);
            if ($stat !== false) {
                !isset($sizes[$stat['name']]) || throw UnreadableFootage::archive("two of its files are called {$stat['name']}");
                $sizes[$stat['name']] = $stat['size'];
            }
        }
        $pictures = self::taken($folder, self::chosen($sizes, 'it'), static fn(string $name, string $target, int $most): int => self::extract($zip, $name, $target, $most), (string) $zip->getFromName(self::ABOUT, 10_000));
        $zip->close();

        return $pictures;
    }

    /** Where the picture of a number is. */
    public function file(int $number): string
    {
        return sprintf("{$this->folder}/%08d.{$this->type}", $number);
    }

    /** As ffmpeg takes them. */
    public function pattern(): string
    {
        return "{$this->folder}/%08d.{$this->type}";
    }

    /** @return list<string> options to stand before the -i of them */
    public function options(): array
    {
        return ['-protocol_whitelist', 'file', '-codec_whitelist', implode(',', array_unique(self::CODECS)), '-max_pixels', (string) config('limits.footage.pixels'), '-f', 'image2'];
    }

    /**
     * What the head of each tells, that of the first with what lies beside them.
     *
     * @return non-empty-list<PictureHeader>
     *
     * @throws UnreadableFootage|RefusedFootage where a head tells of what is not handled, or of another size than those before
     */
    public function headers(): array
    {
        $headers = [];
        $size = null;
        foreach ($this->names as $number => $name) {
            $file = $this->file($number);
            $headers[] = $header = match ($this->type) {
                'exr' => ExrHeader::read($file, $name),
                'dpx' => DpxHeader::read($file, $name),
                default => PlainPicture::read($file, $this->type),
            };
            if ($header->size !== null && $size !== null && $header->size !== $size) {
                throw UnreadableFootage::archive(sprintf('%s is %d x %d, and the pictures before it are %d x %d', $name, ...$header->size, ...$size));
            }
            $size ??= $header->size;
        }
        $about = json_decode($this->about, true);
        $told = static fn(string $field, string $form): ?string => is_array($about) && is_string($about[$field] ?? null) && preg_match($form, $about[$field]) === 1 ? $about[$field] : null;
        $headers[0] = $headers[0]->with(array_filter(['rate' => $told('rate', '~^[1-9]\d{0,5}/[1-9]\d{0,5}\z~'), 'timecode' => $told('timecode', '~^\d\d:\d\d:\d\d[:;]\d\d\z~')]));

        return $headers;
    }

    /**
     * @param array<string, int> $sizes bytes by name
     *
     * @return non-empty-list<string> names of its pictures in order
     */
    private static function chosen(array $sizes, string $where): array
    {
        $names = [];
        $bytes = 0;
        foreach ($sizes as $name => $size) {
            $name = (string) $name;
            $type = strtolower(pathinfo($name, PATHINFO_EXTENSION));
            if (isset(self::CODECS[$type]) && !str_starts_with(basename($name), '.')) {
                $names[$name] = $type;
                $bytes += $size;
            }
        }
        if (isset($sizes[BundleWriter::MANIFEST])) {
            throw UnreadableFootage::archive("{$where} is a bundle, which is brought in where the jobs are listed");
        }
        if ($names === []) {
            throw UnreadableFootage::archive("{$where} holds no PNG, TIFF, JPEG, DPX or OpenEXR pictures");
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
        $ordered = array_map(strval(...), array_keys($names));
        natsort($ordered);

        return array_values($ordered);
    }

    /**
     * @param non-empty-list<string>             $ordered
     * @param callable(string, string, int): int $take    a picture by its name to a place, of so many bytes at the most; tells how many it has
     */
    private static function taken(string $folder, array $ordered, callable $take, string $about): self
    {
        $type = strtolower(pathinfo($ordered[0], PATHINFO_EXTENSION));
        $pictures = new self($folder, $type, $ordered, $about);
        $left = (int) config('limits.footage.unpacked_bytes');
        foreach ($ordered as $number => $name) {
            $left -= $take($name, $pictures->file($number), min($left, (int) config('limits.footage.picture_bytes')));
        }

        return $pictures;
    }

    /**
     * @param int $most bytes it may unpack to; what the archive says of that is not to be trusted
     *
     * @return int bytes it has unpacked to
     */
    private static function extract(\ZipArchive $zip, string $name, string $target, int $most): int
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
