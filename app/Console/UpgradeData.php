<?php

declare(strict_types=1);

namespace App\Console;

use App\Upkeep\Upgrade;
use Illuminate\Console\Command;

final class UpgradeData extends Command
{
    protected $signature = 'cossel:upgrade {--check : look over the database also where it is up to date}';

    protected $description = 'Brings the database up to date, or leaves it as it was';

    public function handle(Upgrade $upgrade): int
    {
        $isNeeded = Upgrade::isNeeded();
        $trouble = $isNeeded ? $upgrade->run() : ($this->option('check') ? $upgrade->trouble() : null);
        if ($trouble !== null) {
            $this->components->error($trouble . ($isNeeded ? ' All is as it was before.' : ''));

            return 1;
        }
        if ($this->option('check')) {
            $this->components->info($isNeeded ? 'Brought up to date and checked.' : 'Up to date and whole.');
        }

        return 0;
    }
}
