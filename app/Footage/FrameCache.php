<?php

declare(strict_types=1);

namespace App\Footage;

use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\FrameFormat;
use Illuminate\Filesystem\Filesystem;

/**
 * Decoded frames on disk, by footage and size, decoded a chunk at a time when first asked for. May be emptied at any
 * time; the chunks longest not used go first when it grows over its bound. One footage keeps no more than its share once nobody
 * looks at it.
 */
final class FrameCache
{
    /** Frames decoded and kept together, at the most, and bytes of them: of large ones few, so that looking at one stays quick. */
    private const CHUNK = 12;
    private const CHUNK_BYTES = 40_000_000;
    /** Seconds after which it is noted again that a chunk is looked at. */
    private const NOTED = 600;
    /** Sizes that pictures are made at, as shares of the footage's own. */
    private const SHARES = [1 / 8, 1 / 4, 3 / 8, 1 / 2, 3 / 4];

    /** What is being decoded in order, and how far it has come. */
    private string $of = '';

    /** @var \Generator<int, list<Frame>>|null */
    private ?\Generator $open = null;

    /**
     * @param int $mostBytes   of all frames together
     * @param int $usualBytes  of the frames of one footage: what is beyond goes when it was not looked at for a while
     */
    public function __construct(
        private readonly Filesystem $files,
        private readonly FrameReader $reader,
        private readonly string $path,
        private readonly int $mostBytes,
        private readonly int $usualBytes,
    ) {}

    /** @param int $height of the wanted picture in pixels */
    public function frame(FootageFile $footage, int $number, int $height): Frame
    {
        $format = self::sized($footage->info, $height);
        $bytes = @file_get_contents($this->ensured($footage, $number, [$format]));
        if ($bytes === false) {
            throw UnreadableFootage::frame($number);
        }

        return new Frame($format, $bytes);
    }

    /** Makes sure that the frames of a span are there, without reading them. Sizes that are kept together alike are decoded at once. */
    public function prepare(FootageFile $footage, int $from, int $to, int ...$heights): void
    {
        $alike = [];
        foreach (array_unique($heights) as $height) {
            $format = self::sized($footage->info, $height);
            $alike[self::together($format)][] = $format;
        }
        foreach ($alike as $many => $formats) {
            for ($number = $from - $from % $many; $number <= $to; $number += $many) {
                $this->ensured($footage, $number, $formats);
            }
            $this->rest();
        }
    }

    /**
     * The kept heights for some wanted ones that so many frames of a footage can usually be kept in together, first come first served.
     *
     * @return list<int>
     */
    public function affordable(FootageInfo $info, int $frames, int ...$wanted): array
    {
        $heights = [];
        $left = $this->usualBytes;
        foreach ($wanted as $rows) {
            $height = self::kept($info, $rows);
            $bytes = $frames * self::sized($info, $height)->bytes();
            if (!in_array($height, $heights, true) && $bytes <= $left) {
                $heights[] = $height;
                $left -= $bytes;
            }
        }

        return $heights;
    }

    /** Gives back the space that frames of a file take. */
    public function forget(string $sha256): void
    {
        $this->files->deleteDirectory("{$this->path}/{$sha256}");
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

    /**
     * @param non-empty-list<FrameFormat> $formats of which as many frames are kept together
     *
     * @return string the file of the frame in the first of them
     */
    private function ensured(FootageFile $footage, int $number, array $formats): string
    {
        if ($number < 0 || $number >= $footage->info->frames()) {
            throw UnreadableFootage::frame($number);
        }
        $many = self::together($formats[0]);
        $first = $number - $number % $many;
        $name = static fn(string $chunk): string => sprintf('%s/%08d.raw', $chunk, $number);
        $missing = [];
        foreach ($formats as $format) {
            $chunk = $this->chunk($footage, $format, $first);
            if (!is_file($name($chunk))) {
                $missing[$chunk] = $format;
            } elseif (@filemtime($chunk) < time() - self::NOTED) {
                @touch($chunk);
            }
        }
        if ($missing !== []) {
            $this->decodeOnce($footage, $first, min($first + $many, $footage->info->frames()) - 1, $missing);
        }

        return $name($this->chunk($footage, $formats[0], $first));
    }

    private function chunk(FootageFile $footage, FrameFormat $format, int $first): string
    {
        return "{$this->path}/{$footage->sha256}/{$format->width}x{$format->height}/{$first}";
    }

    /**
     * @param array<string, FrameFormat> $wanted by the chunk they go to
     * @param array<string, FrameFormat> $ours   those whose chunks are locked already and are not there
     */
    private function decodeOnce(FootageFile $footage, int $first, int $last, array $wanted, array $ours = []): void
    {
        $chunk = array_key_first($wanted);
        if ($chunk === null) {
            $ours === [] || $this->decode($footage, $first, $last, $ours);

            return;
        }
        $format = array_shift($wanted);
        $this->files->makeDirectory(dirname($chunk), recursive: true, force: true);
        FileLock::hold("{$chunk}.lock", function () use ($footage, $first, $last, $wanted, $ours, $chunk, $format): void {
            $this->decodeOnce($footage, $first, $last, $wanted, is_dir($chunk) ? $ours : $ours + [$chunk => $format]);
        });
    }

    /**
     * Goes on with the decode that is open, where it has come to these frames: whoever asks for one chunk after the other has the
     * footage read once.
     *
     * @param non-empty-array<string, FrameFormat> $formats by the chunk they go to
     */
    private function decode(FootageFile $footage, int $first, int $last, array $formats): void
    {
        foreach (array_keys($formats) as $chunk) {
            $this->files->deleteDirectory("{$chunk}.part");
            $this->files->makeDirectory("{$chunk}.part");
        }
        $of = implode(' ', [$footage->path, ...array_map(static fn(FrameFormat $format): string => "{$format->width}x{$format->height}", array_values($formats))]);
        $open = $this->open !== null && $this->of === $of && $this->open->valid() && $this->open->key() === $first - 1 ? $this->open : null;
        // Given back whole, or not at all.
        $this->rest();
        $frames = $open ?? $this->reader->sizes($footage, $first, $footage->info->frames() - 1, array_values($formats));
        for ($number = $first; $number <= $last; ++$number) {
            if ($number > $first || $open !== null) {
                $frames->next();
            }
            foreach ($frames->current() as $i => $frame) {
                $this->files->put(sprintf('%s.part/%08d.raw', array_keys($formats)[$i], $number), $frame->bytes);
            }
        }
        [$this->of, $this->open] = [$of, $frames];
        foreach (array_keys($formats) as $chunk) {
            rename("{$chunk}.part", $chunk);
        }
        $this->keepBound(array_keys($formats));
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

    /**
     * Lets the frames go that were not looked at for longest, as far as there are too many.
     *
     * @param list<string> $newest chunks that stay
     */
    public function keepBound(array $newest = []): void
    {
        $chunks = [];
        foreach (glob("{$this->path}/*/*/*", GLOB_ONLYDIR) ?: [] as $chunk) {
            $frames = glob("{$chunk}/*.raw") ?: [];
            if ($frames !== [] && !str_ends_with($chunk, '.part')) {
                $chunks[$chunk] = [(int) @filemtime($chunk), count($frames) * (int) @filesize($frames[0])];
            }
        }
        asort($chunks);
        $footages = [];
        foreach ($chunks as $chunk => $of) {
            $footages[dirname($chunk, 2)][$chunk] = $of;
        }
        foreach ($footages as $own) {
            $chunks = array_diff_key($chunks, $this->bounded($own, $this->usualBytes, $newest, time() - 2 * self::NOTED));
        }
        $this->bounded($chunks, $this->mostBytes, $newest, PHP_INT_MAX);
    }

    /**
     * @param array<string, array{int, int}> $chunks when they were last used, and bytes; those not used for longest first
     * @param list<string>                   $newest chunks that stay
     * @param int                            $before those used later stay too
     *
     * @return array<string, true> those that were let go
     */
    private function bounded(array $chunks, int $most, array $newest, int $before): array
    {
        $bytes = array_sum(array_column($chunks, 1));
        $gone = [];
        foreach ($chunks as $chunk => [$used, $size]) {
            if ($bytes <= $most || $used >= $before) {
                break;
            }
            if (!in_array($chunk, $newest, true)) {
                $this->files->deleteDirectory($chunk);
                $bytes -= $size;
                $gone[$chunk] = true;
            }
        }

        return $gone;
    }
}
