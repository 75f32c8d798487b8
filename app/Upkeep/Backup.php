<?php

declare(strict_types=1);

namespace App\Upkeep;

use Illuminate\Filesystem\Filesystem;
use Illuminate\Support\Facades\Storage;

/**
 * Copies of everything that is kept, made while it is worked with: the database, then the files it names. Until all of it is there, what
 * was backed up before stands. What a folder holds already
 * is not copied again: it is known by size and time, and a share of it is read whole each time, the longest unread first.
 */
final class Backup
{
    public const DATABASE = 'cossel.sqlite';
    /** Where the last one is noted, so that it can be told of. */
    private const LAST = 'last-backup.json';
    /** One file in so many is read whole at each backup: with one a night, each within a week. */
    private const SHARE = 7;

    public function __construct(private readonly Filesystem $files, private readonly DatabaseFile $database) {}

    /**
     * @param bool $all read every copy and every file whole
     *
     * @return array{files: int, bytes: int, copied: int, mended: list<string>, damaged: list<string>} of the whole backup; how many files
     *                                                                                              were copied now, which copies were damaged and copied again,
     *                                                                                              and which files of the data are damaged themselves
     *
     * @throws BackupFailed
     */
    public function make(string $folder, bool $all = false): array
    {
        $this->files->ensureDirectoryExists($folder);
        $folder = (string) realpath($folder);
        $data = rtrim(Storage::disk('data')->path(''), '/');
        if (str_starts_with("{$folder}/", "{$data}/")) {
            throw BackupFailed::inside();
        }
        $before = self::known($folder);
        // What was backed up before stays whole until this one is.
        $database = "{$folder}/" . self::DATABASE;
        $this->database->copyTo("{$database}.new");
        if (!DatabaseFile::isWhole("{$database}.new")) {
            $this->files->delete("{$database}.new");
            throw BackupFailed::database();
        }
        $copies = new Copies($this->files, $data, $folder, KeptFiles::ofDatabase());
        $due = $all ? $before : self::longestUnread($before);
        foreach (KeptFiles::in($data) as $name) {
            $copies->add($name, $before[$name] ?? null, $all || isset($due[$name]));
        }
        $manifest = new BackupManifest((string) hash_file('sha256', "{$database}.new"), $copies->entries);
        BackupManifest::remove($folder);
        rename("{$database}.new", $database);
        $manifest->write($folder);
        foreach (KeptFiles::in($folder) as $name) {
            $copies->holds($name) || $this->files->delete("{$folder}/{$name}");
        }
        $made = ['files' => count($manifest->files), 'bytes' => $manifest->bytes(), 'damaged' => $copies->damaged];
        $this->files->replace("{$data}/" . self::LAST, json_encode(['place' => $folder, 'made' => now()->toIso8601String(), ...$made], JSON_THROW_ON_ERROR | JSON_UNESCAPED_SLASHES));

        return [...$made, 'copied' => $copies->copied, 'mended' => $copies->mended];
    }

    /** @return array{place: string, made: string, files: int, bytes: int, damaged?: list<string>}|null */
    public function last(): ?array
    {
        $last = json_decode((string) @file_get_contents(Storage::disk('data')->path(self::LAST)), true);

        return is_array($last) ? $last : null;
    }

    /** @return array<string, BackupFile> what the folder holds already; where that cannot be read, all of it is looked at anew */
    private static function known(string $folder): array
    {
        try {
            return BackupManifest::read($folder)->files;
        } catch (BackupFailed) {
            return [];
        }
    }

    /**
     * @param array<string, BackupFile> $files
     *
     * @return array<string, BackupFile>
     */
    private static function longestUnread(array $files): array
    {
        uasort($files, static fn(BackupFile $a, BackupFile $b): int => $a->checked <=> $b->checked);

        return array_slice($files, 0, (int) ceil(count($files) / self::SHARE), true);
    }
}
