<?php

declare(strict_types=1);

namespace App\Footage;

use Symfony\Component\Process\Exception\ProcessTimedOutException;
use Symfony\Component\Process\Process;

/** Folders of the server that footage may be taken from without being sent, and nothing outside them. */
final class ServerFolders
{
    private const FILMS = ['mkv', 'webm', 'ogv', 'ogg', 'mp4', 'mov', 'm4v', 'zip'];
    private const MOST = 5000;

    /** @return array<string, string> real paths by name */
    public static function roots(): array
    {
        $roots = [];
        foreach (config('cossel.folders') as $folder) {
            $path = realpath($folder);
            if ($path !== false && is_dir($path)) {
                $name = basename($path);
                $roots[isset($roots[$name]) ? trim($path, '/') : $name] = $path;
            }
        }

        return $roots;
    }

    /**
     * What lies at a path, which begins with the name of a root; at none the roots themselves.
     *
     * @return list<array{name: string, path: string, kind: string, bytes: int}> kinds: folder, film, sequence
     *
     * @throws RefusedFootage
     */
    public static function list(string $path): array
    {
        if ($path === '') {
            return array_map(static fn(string $name): array => ['name' => $name, 'path' => $name, 'kind' => 'folder', 'bytes' => 0], array_keys(self::roots()));
        }
        $folder = self::real($path);
        $found = [];
        foreach (is_dir($folder) ? scandir($folder) ?: [] : throw RefusedFootage::outside($path) as $name) {
            if ($name[0] === '.' || count($found) >= self::MOST) {
                continue;
            }
            $real = realpath("{$folder}/{$name}");
            if ($real === false || !self::isInside($real)) {
                continue;
            }
            $kind = is_dir($real) ? (self::isSequence($real) ? 'sequence' : 'folder') : (is_file($real) && in_array(strtolower(pathinfo($name, PATHINFO_EXTENSION)), self::FILMS, true) ? 'film' : null);
            $kind === null || $found[] = ['name' => $name, 'path' => "{$path}/{$name}", 'kind' => $kind, 'bytes' => is_file($real) ? (int) filesize($real) : 0];
        }

        return $found;
    }

    /**
     * Where a path leads, which begins with the name of a root.
     *
     * @throws RefusedFootage where that is outside all of them, by whatever links
     */
    public static function real(string $path): string
    {
        [$root, $rest] = [...explode('/', $path, 2), ''];
        $base = self::roots()[$root] ?? null;
        $real = $base === null ? false : realpath("{$base}/{$rest}");

        return $real !== false && self::isInside($real) ? $real : throw RefusedFootage::outside($path);
    }

    /**
     * A film or a folder of pictures, which is to be taken: nothing in it may lead outside either.
     *
     * @throws RefusedFootage
     */
    public static function source(string $path): string
    {
        $source = self::real($path);
        if (!is_dir($source) && !is_file($source)) {
            throw RefusedFootage::noFile($path);
        }
        foreach (is_dir($source) ? new \DirectoryIterator($source) : [] as $file) {
            if ($file->isLink() && !self::isInside((string) realpath($file->getPathname()))) {
                throw RefusedFootage::outside("{$path}/{$file->getFilename()}");
            }
        }

        return $source;
    }

    /**
     * Copies what is to be taken to a place of ours, as it is by now.
     *
     * @param string $source as {@see source} gave it
     *
     * @throws RefusedFootage|UnreadableFootage|StorageFull
     */
    public static function fetch(string $source, string $target): void
    {
        $limits = config('limits.footage');
        $process = new Process([PHP_BINARY, base_path('server/fetch'), $source, $target, (string) $limits['upload_bytes'], (string) ($limits['frames'] + 1), ...array_values(self::roots())], timeout: null);
        $process->setIdleTimeout($limits['silent_seconds']);
        try {
            $ended = $process->run();
        } catch (ProcessTimedOutException) {
            throw UnreadableFootage::silent(basename($source), $limits['silent_seconds']);
        }
        $name = ltrim(basename($source) . '/' . $process->getErrorOutput(), '/');
        match ($ended) {
            0 => null,
            Fetch::OUTSIDE => throw RefusedFootage::outside(rtrim($name, '/')),
            Fetch::NO_FILE => throw RefusedFootage::noFile(rtrim($name, '/')),
            Fetch::TOO_LARGE => throw RefusedFootage::uploadSize($limits['upload_bytes']),
            Fetch::NO_ROOM => throw StorageFull::or('The data folder cannot be written to.'),
            default => throw new \RuntimeException("Fetching {$name} ended with {$ended}: {$process->getErrorOutput()}"),
        };
    }

    private static function isInside(string $real): bool
    {
        foreach (self::roots() as $root) {
            if ($real === $root || str_starts_with($real, "{$root}/")) {
                return true;
            }
        }

        return false;
    }

    /** Whether a folder begins with pictures. */
    private static function isSequence(string $folder): bool
    {
        $pictures = 0;
        foreach (new \DirectoryIterator($folder) as $i => $file) {
            $pictures += (int) ($file->isFile() && isset(Pictures::CODECS[strtolower($file->getExtension())]));
            if ($pictures > 1 || $i > 200) {
                break;
            }
        }

        return $pictures > 1;
    }
}
