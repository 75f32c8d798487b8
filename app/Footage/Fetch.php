<?php

declare(strict_types=1);

namespace App\Footage;

/**
 * Copies a film, or the pictures of a folder, out of folders of the server. It runs as a process of its own ({@see ServerFolders::fetch}),
 * so that what never answers is given up. Each file is opened once, without waiting for whoever would write to it, and looked at when it
 * is open: a regular one, and where the system says it lies. Whatever is put in its place meanwhile, by a link or otherwise, is not read.
 */
final class Fetch
{
    public const OUTSIDE = 3;
    public const NO_FILE = 4;
    public const TOO_LARGE = 5;
    public const NO_ROOM = 6;
    private const PIECE = 1 << 20;

    /**
     * @param list<string> $roots real paths of the folders that may be read
     * @param int          $left  bytes that may still be read
     */
    public function __construct(private readonly array $roots, private int $left) {}

    /**
     * @param list<string> $arguments source, target, most bytes, most files, roots
     *
     * @return int what it ends with; a sign on standard output for each piece that was read
     */
    public static function main(array $arguments): int
    {
        [$source, $target, $bytes, $files] = $arguments;

        return (new self(array_slice($arguments, 4), (int) $bytes))->copy($source, $target, (int) $files);
    }

    private function copy(string $source, string $target, int $files): int
    {
        if (!is_dir($source)) {
            return $this->file($source, $target);
        }
        @mkdir($target);
        $names = array_filter(@scandir($source) ?: [], static fn(string $name): bool => $name[0] !== '.' && ($name === Pictures::ABOUT || isset(Pictures::CODECS[strtolower(pathinfo($name, PATHINFO_EXTENSION))])));
        if (count($names) > $files) {
            return self::TOO_LARGE;
        }
        foreach ($names as $name) {
            $ended = $this->file("{$source}/{$name}", "{$target}/{$name}");
            if ($ended !== 0) {
                fwrite(STDERR, $name);

                return $ended;
            }
        }

        return 0;
    }

    private function file(string $source, string $target): int
    {
        // Not blocking: a named pipe that nobody writes to is opened at once, and refused.
        $from = @fopen($source, 'rn');
        if ($from === false) {
            return self::NO_FILE;
        }
        $stat = (array) fstat($from);
        if (($stat['mode'] & 0170000) !== 0100000) {
            return self::NO_FILE;
        }
        if (!$this->isInside($stat['dev'], $stat['ino'])) {
            return self::OUTSIDE;
        }
        $to = @fopen($target, 'w');
        while ($to !== false && !feof($from)) {
            $piece = (string) fread($from, self::PIECE);
            $this->left -= strlen($piece);
            if ($this->left < 0) {
                return self::TOO_LARGE;
            }
            if (@fwrite($to, $piece) !== strlen($piece)) {
                return self::NO_ROOM;
            }
            echo '.';
        }
        if ($to === false || !fclose($to)) {
            return self::NO_ROOM;
        }
        fclose($from);

        return 0;
    }

    /** Whether an opened file lies in one of the folders, as the system tells it. */
    private function isInside(int $device, int $inode): bool
    {
        foreach (scandir('/proc/self/fd') ?: [] as $number) {
            $opened = @stat("/proc/self/fd/{$number}");
            if ($opened === false || $opened['dev'] !== $device || $opened['ino'] !== $inode) {
                continue;
            }
            $path = (string) @readlink("/proc/self/fd/{$number}");
            foreach ($this->roots as $root) {
                if (str_starts_with($path, rtrim($root, '/') . '/')) {
                    return true;
                }
            }
        }

        return false;
    }
}
