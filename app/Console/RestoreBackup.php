<?php

declare(strict_types=1);

namespace App\Console;

use App\Upkeep\Backup;
use App\Upkeep\BackupFailed;
use App\Upkeep\Upgrade;
use Illuminate\Console\Command;

final class RestoreBackup extends Command
{
    protected $signature = 'cossel:restore {folder : a backup}';

    protected $description = 'Puts a backup back, also while Cossel runs';

    public function handle(Backup $backup, Upgrade $upgrade): int
    {
        try {
            $before = $backup->restore($this->argument('folder'));
        } catch (BackupFailed $reason) {
            $this->components->error($reason->getMessage());

            return 1;
        }
        $trouble = Upgrade::isNeeded() ? $upgrade->run() : null;
        if ($trouble !== null) {
            $backup->replaceDatabase($before);
            $this->components->error("{$trouble} All is as it was before.");

            return 1;
        }
        $this->components->info("Restored. What was there before is in {$before}.");

        return 0;
    }
}
