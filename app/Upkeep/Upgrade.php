<?php

declare(strict_types=1);

namespace App\Upkeep;

use App\Models\Shot;
use App\Treatment\Recipes;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** Brings the database up to date: set aside, migrated, checked; or put back as it was. */
final class Upgrade
{
    /** Without these a database is none of ours. */
    private const TABLES = ['migrations', 'jobs', 'shots', 'footage', 'revisions', 'queue_jobs'];

    public function __construct(private readonly DatabaseFile $database, private readonly Recipes $recipes) {}

    /** Whether any migration has not run yet. */
    public static function isNeeded(): bool
    {
        return array_diff(self::ours(), Schema::hasTable('migrations') ? self::done() : []) !== [];
    }

    /**
     * @return string|null why it was put back as it was; null where all is well
     */
    public function run(): ?string
    {
        $before = Schema::hasTable('migrations') ? $this->database->setAside('before-upgrade') : null;
        $trouble = $this->bringUpToDate();
        if ($trouble !== null && $before !== null) {
            $this->database->replaceWith($before);
        }

        return $trouble;
    }

    /** Why a database that came from elsewhere cannot be one of ours, in a sentence; null where it can. */
    public function foreign(): ?string
    {
        try {
            foreach (self::TABLES as $table) {
                if (!Schema::hasTable($table)) {
                    return "Its database has no table “{$table}”.";
                }
            }

            return array_diff(self::done(), self::ours()) === [] ? null : 'It was made by a newer version of Cossel; bring this one up to date first.';
        } catch (\PDOException) {
            return 'Its database is damaged.';
        }
    }

    /** Migrates and checks. @return string|null what is wrong, in a sentence */
    public function bringUpToDate(): ?string
    {
        try {
            Artisan::call('migrate', ['--force' => true, '--quiet' => true]);

            return $this->trouble();
        } catch (\Throwable $reason) {
            report($reason);

            return 'The database cannot be brought up to date: ' . rtrim($reason->getMessage(), '.') . '.';
        }
    }

    /** What is wrong with the database, or with any recipe in it that is worked with. */
    public function trouble(): ?string
    {
        $whole = array_column(array_map(static fn(object $row): array => (array) $row, DB::select('PRAGMA integrity_check')), 'integrity_check');
        if ($whole !== ['ok']) {
            return 'The database is damaged: ' . implode(', ', array_slice($whole, 0, 3));
        }
        if (DB::select('PRAGMA foreign_key_check') !== []) {
            return 'Rows of the database belong to rows that are not there.';
        }
        foreach (Shot::where('revision', '>', 0)->lazyById() as $shot) {
            try {
                $this->recipes->recipe($shot);
            } catch (\Throwable $reason) {
                return "The recipe of {$shot->name} cannot be read any more: {$reason->getMessage()}";
            }
        }

        return null;
    }

    /** @return list<string> migrations that this release knows */
    private static function ours(): array
    {
        return array_map(static fn(string $file): string => basename($file, '.php'), glob(database_path('migrations/*.php')) ?: []);
    }

    /** @return array<int, string> migrations that the database has seen */
    private static function done(): array
    {
        return DB::table('migrations')->pluck('migration')->all();
    }
}
