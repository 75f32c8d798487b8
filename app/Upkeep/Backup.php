<?php

declare(strict_types=1);

namespace App\Upkeep;

use Illuminate\Filesystem\Filesystem;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;

/**
 * Copies of everything that is kept, made while it is worked with: the database by SQLite's own online backup, then the files
 * it names. What a folder has already is not copied again. The manifest is written last; without it a folder is no backup.
 */
final class Backup
{
    public const FORMAT = 'backup/1';
    private const DATABASE = 'cossel.sqlite';
    private const MANIFEST = 'backup.json';
    /** Folders of the data whose files are kept. */
    private const KEPT = ['footage', 'tracks', 'assets', 'deliveries'];
    /** Where the last one is noted, so that it can be told of. */
    private const LAST = 'last-backup.json';

    public function __construct(private readonly Filesystem $files) {}

    /**
     * @return array{files: int, bytes: int, copied: int} of the whole backup, and how many files were copied now
     *
     * @throws BackupFailed
     */
    public function make(string $folder): array
    {
        $this->files->ensureDirectoryExists($folder);
        $folder = (string) realpath($folder);
        if (str_starts_with("{$folder}/", $this->data() . '/')) {
            throw BackupFailed::inside();
        }
        $this->files->delete("{$folder}/" . self::MANIFEST);
        $this->database("{$folder}/" . self::DATABASE);
        $entries = [];
        $copied = 0;
        foreach ($this->kept() as $name) {
            $from = $this->data() . "/{$name}";
            $to = "{$folder}/{$name}";
            // Files are never changed once they have their name, so one of the same name and size is the same.
            if (@filesize($to) !== @filesize($from)) {
                if (!$this->copy($from, $to)) {
                    // Removed in this moment: then the database of this backup may still name it, but nobody misses it.
                    continue;
                }
                ++$copied;
            }
            $entries[$name] = ['bytes' => (int) filesize($to), 'sha256' => (string) hash_file('sha256', $to)];
        }
        foreach ($this->files->exists("{$folder}/footage") ? self::inside($folder) : [] as $name) {
            isset($entries[$name]) || $this->files->delete("{$folder}/{$name}");
        }
        $bytes = array_sum(array_column($entries, 'bytes'));
        $database = hash_file('sha256', "{$folder}/" . self::DATABASE);
        $this->files->replace("{$folder}/" . self::MANIFEST, json_encode(['cossel' => self::FORMAT, 'made' => now()->toIso8601String(), 'database' => $database, 'files' => $entries], JSON_THROW_ON_ERROR | JSON_UNESCAPED_SLASHES));
        $this->files->replace($this->data() . '/' . self::LAST, json_encode(['place' => $folder, 'made' => now()->toIso8601String(), 'files' => count($entries), 'bytes' => $bytes], JSON_THROW_ON_ERROR | JSON_UNESCAPED_SLASHES));

        return ['files' => count($entries), 'bytes' => $bytes, 'copied' => $copied];
    }

    /**
     * Puts a backup back, also while Cossel runs. What is there is kept beside as a database of its own; files it needs are
     * not taken away.
     *
     * @return string where the database that was there is kept
     *
     * @throws BackupFailed when the backup is not whole
     */
    public function restore(string $folder): string
    {
        $manifest = json_decode((string) @file_get_contents("{$folder}/" . self::MANIFEST), true);
        if (!is_array($manifest) || ($manifest['cossel'] ?? null) !== self::FORMAT) {
            throw BackupFailed::none($folder);
        }
        if (@hash_file('sha256', "{$folder}/" . self::DATABASE) !== $manifest['database']) {
            throw BackupFailed::damaged(self::DATABASE);
        }
        foreach ($manifest['files'] as $name => ['sha256' => $sha256]) {
            if (!self::isName((string) $name) || @hash_file('sha256', "{$folder}/{$name}") !== $sha256) {
                throw BackupFailed::damaged((string) $name);
            }
        }
        foreach ($manifest['files'] as $name => ['bytes' => $bytes, 'sha256' => $sha256]) {
            $isThere = @filesize($this->data() . "/{$name}") === $bytes && hash_file('sha256', $this->data() . "/{$name}") === $sha256;
            if (!$isThere && !$this->copy("{$folder}/{$name}", $this->data() . "/{$name}")) {
                throw BackupFailed::notWritten((string) $name);
            }
        }
        $before = $this->aside('before-restore');
        $this->replaceDatabase("{$folder}/" . self::DATABASE);

        return $before;
    }

    /** A copy of the database alone, in the data folder. @return string its file */
    public function aside(string $name): string
    {
        $file = sprintf('%s/backups/%s-%s.sqlite', $this->data(), $name, now()->format('Ymd-His'));
        $this->files->ensureDirectoryExists(dirname($file));
        $this->database($file);

        return $file;
    }

    /** Puts another database in the place of this one, by SQLite's own means: whoever has it open sees the new one. */
    public function replaceDatabase(string $file): void
    {
        DB::disconnect();
        $from = new \SQLite3($file, SQLITE3_OPEN_READONLY);
        $to = new \SQLite3((string) config('database.connections.sqlite.database'));
        $to->busyTimeout(30_000);
        $done = $from->backup($to);
        $to->close();
        $from->close();
        if (!$done) {
            throw BackupFailed::busy();
        }
    }

    /** @return array{place: string, made: string, files: int, bytes: int}|null */
    public function last(): ?array
    {
        $last = json_decode((string) @file_get_contents($this->data() . '/' . self::LAST), true);

        return is_array($last) ? $last : null;
    }

    private function database(string $file): void
    {
        $this->files->delete("{$file}.part");
        $from = new \SQLite3((string) config('database.connections.sqlite.database'), SQLITE3_OPEN_READONLY);
        $from->busyTimeout(30_000);
        $to = new \SQLite3("{$file}.part");
        $done = $from->backup($to);
        // One file, to be opened from a place that cannot be written to.
        $to->exec('PRAGMA journal_mode = DELETE');
        $to->close();
        $from->close();
        if (!$done) {
            throw BackupFailed::busy();
        }
        rename("{$file}.part", $file);
    }

    private function copy(string $from, string $to): bool
    {
        $this->files->ensureDirectoryExists(dirname($to));

        return @copy($from, "{$to}.part") && rename("{$to}.part", $to);
    }

    /** @return list<string> */
    private function kept(): array
    {
        return array_values(array_filter(self::inside($this->data()), static fn(string $name): bool => preg_match('#\.(?:lock|part)\z|\.(?:work|part|frames)/#', $name) !== 1));
    }

    /** @return list<string> names of files in the folders that are kept */
    private static function inside(string $folder): array
    {
        $names = [];
        foreach (self::KEPT as $kept) {
            foreach (is_dir("{$folder}/{$kept}") ? new \RecursiveIteratorIterator(new \RecursiveDirectoryIterator("{$folder}/{$kept}", \FilesystemIterator::SKIP_DOTS)) : [] as $file) {
                $names[] = substr((string) $file, strlen($folder) + 1);
            }
        }
        sort($names);

        return $names;
    }

    private static function isName(string $name): bool
    {
        return preg_match('#^(?:' . implode('|', self::KEPT) . ')/[\w./-]+\z#', $name) === 1 && !str_contains($name, '..');
    }

    private function data(): string
    {
        return rtrim(Storage::disk('data')->path(''), '/');
    }
}
