<?php

declare(strict_types=1);

namespace App\Upkeep;

use Illuminate\Filesystem\Filesystem;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;

/** The database as a file: copied, set aside and replaced by SQLite's own online backup, while others have it open. */
final class DatabaseFile
{
    private const CONNECTION = 'database.connections.sqlite.database';
    /** Milliseconds that another's write is waited for. */
    private const PATIENCE = 30_000;

    public function __construct(private readonly Filesystem $files) {}

    /** @throws BackupFailed where it is busy or cannot be read */
    public function copyTo(string $file): void
    {
        $this->files->delete("{$file}.part");
        self::backup((string) config(self::CONNECTION), "{$file}.part");
        rename("{$file}.part", $file);
    }

    /** A copy in the data folder, of one that cannot be read as it is. @return string its file */
    public function setAside(string $name): string
    {
        $file = sprintf('%s/backups/%s-%s.sqlite', rtrim(Storage::disk('data')->path(''), '/'), $name, now()->format('Ymd-His'));
        $this->files->ensureDirectoryExists(dirname($file));
        try {
            $this->copyTo($file);
        } catch (BackupFailed $failed) {
            $failed->isBusy ? throw $failed : copy((string) config(self::CONNECTION), $file);
        }

        return $file;
    }

    /**
     * Puts another database in the place of this one; whoever has it open sees the new one. One that cannot even be written into gives way
     * as a file, which whoever has it open sees once they open it anew.
     *
     * @throws BackupFailed where the other cannot be used
     */
    public function replaceWith(string $file): void
    {
        DB::disconnect();
        $place = (string) config(self::CONNECTION);
        try {
            self::backup($file, $place, false);
        } catch (BackupFailed $failed) {
            if ($failed->isBusy) {
                throw $failed;
            }
            $this->files->delete(["{$place}-wal", "{$place}-shm"]);
            self::backup($file, "{$place}.part", true);
            rename("{$place}.part", $place);
        }
    }

    /**
     * Does something with another file as the database of this process.
     *
     * @template T
     *
     * @param callable(): T $act
     *
     * @return T
     */
    public function using(string $file, callable $act): mixed
    {
        $usual = config(self::CONNECTION);
        config([self::CONNECTION => $file]);
        DB::purge();
        try {
            return $act();
        } finally {
            config([self::CONNECTION => $usual]);
            DB::purge();
        }
    }

    /** Whether a file is a database of which every page can be read. */
    public static function isWhole(string $file): bool
    {
        try {
            $database = new \SQLite3($file, SQLITE3_OPEN_READONLY);
            $database->enableExceptions(true);
            $found = $database->querySingle('PRAGMA quick_check');
            $database->close();

            return $found === 'ok';
        } catch (\Exception) {
            return false;
        }
    }

    /** @param bool $alone one file without others beside it, to be opened from a place that cannot be written to */
    private static function backup(string $from, string $to, bool $alone = true): void
    {
        try {
            $source = new \SQLite3($from, SQLITE3_OPEN_READONLY);
            $source->enableExceptions(true);
            $source->busyTimeout(self::PATIENCE);
            $target = new \SQLite3($to);
            $target->enableExceptions(true);
            $target->busyTimeout(self::PATIENCE);
            $done = $source->backup($target);
            $alone && $target->exec('PRAGMA journal_mode = DELETE');
            $target->close();
            $source->close();
        } catch (\Exception $reason) {
            throw str_contains($reason->getMessage(), 'locked') || str_contains($reason->getMessage(), 'busy') ? BackupFailed::busy() : BackupFailed::unreadable(basename($from), $reason->getMessage());
        }
        $done || throw BackupFailed::busy();
    }
}
