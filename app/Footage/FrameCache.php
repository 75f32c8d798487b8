<?php

declare(strict_types=1);

namespace App\Footage;

use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\FrameFormat;
use Illuminate\Filesystem\Filesystem;

/**
 * Decoded frames on disk, by footage and size, decoded a chunk at a time when first asked for. May be emptied at any
 * time; the chunks longest not used go first when it grows over its bound.
 */
final class FrameCache
{
    /** Frames decoded and kept together, at the most, and bytes of them: of large ones few, so that looking at one stays quick. */
    private const CHUNK = 12;
    private const CHUNK_BYTES = 40_000_000;
    /** Sizes that pictures are made at, as shares of the footage's own. */
    private const SHARES = [1 / 8, 1 / 4, 3 / 8, 1 / 2, 3 / 4];

    /** What is being decoded in order, and how far it has come. */
    private string $of = '';

    /** @var \Generator<int, Frame>|null */
    private ?\Generator $open = null;

    public function __construct(private readonly Filesystem $files, private readonly FrameReader $reader, private readonly string $path, private readonly int $mostBytes) {}

    /** @param int $height of the wanted picture in pixels */
    public function frame(FootageFile $footage, int $number, int $height): Frame
    {
        $format = self::sized($footage->info, $height);
        $bytes = @file_get_contents($this->ensured($footage, $number, $format));
        if ($bytes === false) {
            throw UnreadableFootage::frame($number);
        }

        return new Frame($format, $bytes);
    }

    /** Makes sure that the frames of a span are there, without reading them. */
    public function prepare(FootageFile $footage, int $from, int $to, int $height): void
    {
        $format = self::sized($footage->info, $height);
        $many = self::together($format);
        for ($number = $from - $from % $many; $number <= $to; $number += $many) {
            $this->ensured($footage, $number, $format);
        }
        $this->rest();
    }

    /** Gives back the space that frames of a file take. */
    public function forget(FootageFile $footage): void
    {
        $this->files->deleteDirectory("{$this->path}/{$footage->sha256}");
    }

    /** The smallest usual height that has at least this many rows; footage is never enlarged. */
    public static function kept(FootageInfo $info, int $wanted): int
    {
        foreach (self::SHARES as $share) {
            $height = (int) round($info->height * $share);
            if ($height >= $wanted) {
                return $height;
            }
        }

        return $info->height;
    }

    public static function sized(FootageInfo $info, int $height): FrameFormat
    {
        $full = $info->format();
        if ($height >= $full->height) {
            return $full;
        }

        return $full->sized(max(2, 2 * (int) round($full->width * $height / $full->height / 2)), $height);
    }

    /** How many frames of a size are kept together. */
    private static function together(FrameFormat $format): int
    {
        return max(1, min(self::CHUNK, intdiv(self::CHUNK_BYTES, $format->bytes())));
    }

    private function ensured(FootageFile $footage, int $number, FrameFormat $format): string
    {
        if ($number < 0 || $number >= $footage->info->frames()) {
            throw UnreadableFootage::frame($number);
        }
        $many = self::together($format);
        $first = $number - $number % $many;
        $chunk = "{$this->path}/{$footage->sha256}/{$format->width}x{$format->height}/{$first}";
        $file = sprintf('%s/%08d.raw', $chunk, $number);
        if (!is_file($file)) {
            $this->decodeOnce($footage, $first, min($first + $many, $footage->info->frames()) - 1, $format, $chunk);
        } elseif (@filemtime($chunk) < time() - 600) {
            @touch($chunk);
        }

        return $file;
    }

    private function decodeOnce(FootageFile $footage, int $first, int $last, FrameFormat $format, string $chunk): void
    {
        $this->files->makeDirectory(dirname($chunk), recursive: true, force: true);
        FileLock::hold("{$chunk}.lock", function () use ($footage, $first, $last, $format, $chunk): void {
            if (!is_dir($chunk)) {
                $work = "{$chunk}.part";
                $this->files->deleteDirectory($work);
                $this->files->makeDirectory($work);
                $this->decode($footage, $first, $last, $format, $work);
                rename($work, $chunk);
                $this->keepBound($chunk);
            }
        });
    }

    /**
     * Goes on with the decode that is open, where it has come to these frames: whoever asks for one chunk after the other has the
     * footage read once.
     */
    private function decode(FootageFile $footage, int $first, int $last, FrameFormat $format, string $into): void
    {
        $of = "{$footage->path} {$format->width}x{$format->height}";
        $open = $this->open !== null && $this->of === $of && $this->open->valid() && $this->open->key() === $first - 1 ? $this->open : null;
        // Given back whole, or not at all.
        $this->rest();
        $frames = $open ?? $this->reader->frames($footage, $first, $footage->info->frames() - 1, $format);
        for ($number = $first; $number <= $last; ++$number) {
            if ($number > $first || $open !== null) {
                $frames->next();
            }
            $this->files->put(sprintf('%s/%08d.raw', $into, $number), $frames->current()->bytes);
        }
        [$this->of, $this->open] = [$of, $frames];
    }

    /** Ends the decode that is open; after a piece of work, so that no process is left waiting. */
    public function rest(): void
    {
        [$this->of, $this->open] = ['', null];
    }

    /** Throws all frames away that are not being decoded just now; whoever looks at one has it decoded again. */
    public function empty(): void
    {
        foreach (glob("{$this->path}/*/*/*", GLOB_ONLYDIR) ?: [] as $chunk) {
            if (!str_ends_with($chunk, '.part')) {
                $this->files->deleteDirectory($chunk);
            }
        }
    }

    /** Clears away chunks that were left half decoded. @return int bytes */
    public function clearUp(): int
    {
        $freed = 0;
        foreach (glob("{$this->path}/*/*/*.lock") ?: [] as $file) {
            FileLock::hold($file, function () use ($file, &$freed): void {
                $work = substr($file, 0, -5) . '.part';
                foreach (glob("{$work}/*") ?: [] as $frame) {
                    $freed += (int) @filesize($frame);
                }
                $this->files->deleteDirectory($work);
            }, false);
        }

        return $freed;
    }

    /** Lets the frames go that were not looked at for longest, as far as there are too many. */
    public function keepBound(string $newest = ''): void
    {
        $chunks = [];
        $bytes = 0;
        foreach (glob("{$this->path}/*/*/*", GLOB_ONLYDIR) ?: [] as $chunk) {
            $frames = glob("{$chunk}/*.raw") ?: [];
            if ($frames === [] || str_ends_with($chunk, '.part')) {
                continue;
            }
            $size = count($frames) * (int) @filesize($frames[0]);
            $bytes += $size;
            $chunks[$chunk] = [(int) @filemtime($chunk), $size];
        }
        asort($chunks);
        foreach ($chunks as $chunk => [, $size]) {
            if ($bytes <= $this->mostBytes) {
                break;
            }
            if ($chunk !== $newest) {
                $this->files->deleteDirectory($chunk);
                $bytes -= $size;
            }
        }
    }
}
