<?php

declare(strict_types=1);

namespace App\Console;

use App\Upkeep\Backup;
use App\Upkeep\BackupFailed;
use Illuminate\Console\Command;
use Illuminate\Support\Number;

final class MakeBackup extends Command
{
    protected $signature = 'cossel:backup {folder : where to; what is there of an earlier one is not copied again} {--check : read every file and every copy whole}';

    protected $description = 'Makes a copy of everything that is kept, also while Cossel runs';

    public function handle(Backup $backup): int
    {
        try {
            $made = $backup->make($this->argument('folder'), (bool) $this->option('check'));
        } catch (BackupFailed $reason) {
            $this->components->error($reason->getMessage());

            return 1;
        }
        $this->components->info(sprintf('%d files, %s; %d of them copied now.', $made['files'], Number::fileSize($made['bytes']), $made['copied']));
        if ($made['mended'] !== []) {
            $this->components->warn('Damaged in the backup and copied again: ' . implode(', ', $made['mended']) . '.');
        }
        if ($made['damaged'] !== []) {
            $this->components->error('Damaged in the data folder: ' . implode(', ', $made['damaged']) . '. A good copy in the backup stays there, and restore puts it back.');
        }

        return $made['damaged'] === [] ? 0 : 1;
    }
}
