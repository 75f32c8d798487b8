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
    public function __construct(private readonly Backup $backup, private readonly Recipes $recipes) {}

    /** Whether any migration has not run yet. */
    public static function isNeeded(): bool
    {
        $known = Schema::hasTable('migrations') ? DB::table('migrations')->pluck('migration')->all() : [];

        return array_diff(array_map(static fn(string $file): string => basename($file, '.php'), glob(database_path('migrations/*.php')) ?: []), $known) !== [];
    }

    /**
     * @return string|null why it was put back as it was; null where all is well
     */
    public function run(): ?string
    {
        $before = Schema::hasTable('migrations') ? $this->backup->aside('before-upgrade') : null;
        try {
            Artisan::call('migrate', ['--force' => true, '--quiet' => true]);
            $trouble = $this->trouble();
        } catch (\Throwable $reason) {
            report($reason);
            $trouble = $reason->getMessage();
        }
        if ($trouble !== null && $before !== null) {
            $this->backup->replaceDatabase($before);
        }

        return $trouble;
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
}
