<?php

declare(strict_types=1);

namespace App\Upkeep;

use Illuminate\Filesystem\Filesystem;
use Illuminate\Support\Facades\Storage;

/**
 * Puts a backup back, also while Cossel runs. Everything is looked at before anything is replaced: every file is read whole, and the
 * database is brought up to date and checked as a copy. A file of the data that is as it has to be is never written over.
 */
final class Restore
{
    public function __construct(private readonly Filesystem $files, private readonly DatabaseFile $database, private readonly Upgrade $upgrade) {}

    /**
     * @return array{before: string, damaged: list<string>} where the database that was there is kept, and which files of the backup are
     *                                                      damaged but whole in the data
     *
     * @throws BackupFailed with a sentence; then nothing was changed
     */
    public function run(string $folder): array
    {
        $manifest = BackupManifest::read($folder);
        if (!KeptFiles::isPlain($folder, Backup::DATABASE)) {
            throw BackupFailed::damaged(Backup::DATABASE);
        }
        $new = $this->data('backups/to-restore.sqlite');
        $this->files->ensureDirectoryExists(dirname($new));
        try {
            if (Copies::copied("{$folder}/" . Backup::DATABASE, $new) !== $manifest->database) {
                throw BackupFailed::damaged(Backup::DATABASE);
            }
            $kept = $this->database->using($new, fn(): KeptFiles => $this->checked());
            [$missing, $damaged] = $this->sorted($folder, $manifest, $kept);
            foreach ($missing as $name => $sha256) {
                $target = $this->data($name);
                $this->files->ensureDirectoryExists(dirname($target));
                if (Copies::copied("{$folder}/{$name}", "{$target}.part") !== $sha256) {
                    throw BackupFailed::damaged($name);
                }
                rename("{$target}.part", $target);
            }
            $before = $this->database->setAside('before-restore');
            $this->database->replaceWith($new);
        } finally {
            $this->files->delete([$new, "{$new}-wal", "{$new}-shm"]);
        }

        return ['before' => $before, 'damaged' => $damaged];
    }

    /** Brings the database at hand up to date and looks it over. */
    private function checked(): KeptFiles
    {
        $trouble = $this->upgrade->foreign() ?? $this->upgrade->bringUpToDate();
        $trouble === null || throw BackupFailed::unfit($trouble);

        return KeptFiles::ofDatabase();
    }

    /**
     * @return array{array<string, string>, list<string>} files that the data lacks or holds damaged, with their SHA-256; files that the
     *                                                    backup holds damaged and the data whole
     */
    private function sorted(string $folder, BackupManifest $manifest, KeptFiles $kept): array
    {
        $missing = $damaged = [];
        foreach ($manifest->files as $name => $file) {
            $wanted = $kept->sha256($name) ?? $file->sha256;
            $isGood = is_file($this->data($name)) && hash_file('sha256', $this->data($name)) === $wanted;
            if (!KeptFiles::isPlain($folder, $name)) {
                throw file_exists("{$folder}/{$name}") ? BackupFailed::link($name) : BackupFailed::damaged($name);
            }
            if (hash_file('sha256', "{$folder}/{$name}") !== $wanted) {
                $isGood ? $damaged[] = $name : throw BackupFailed::damaged($name);
            } elseif (!$isGood) {
                $missing[$name] = $wanted;
            }
        }

        return [$missing, $damaged];
    }

    private function data(string $name): string
    {
        return Storage::disk('data')->path($name);
    }
}
