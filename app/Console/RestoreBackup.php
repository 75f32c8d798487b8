<?php

declare(strict_types=1);

namespace App\Console;

use App\Footage\StorageFull;
use App\Upkeep\BackupFailed;
use App\Upkeep\Restore;
use Illuminate\Console\Command;

final class RestoreBackup extends Command
{
    protected $signature = 'cossel:restore {folder : a backup}';

    protected $description = 'Puts a backup back, also while Cossel runs';

    public function handle(Restore $restore): int
    {
        try {
            ['before' => $before, 'damaged' => $damaged] = $restore->run($this->argument('folder'));
        } catch (BackupFailed|StorageFull $reason) {
            $this->components->error($reason->getMessage());

            return 1;
        }
        if ($damaged !== []) {
            $this->components->warn('Damaged in the backup, whole in the data folder and left there: ' . implode(', ', $damaged) . '.');
        }
        $this->components->info("Restored. What was there before is in {$before}.");

        return 0;
    }
}
