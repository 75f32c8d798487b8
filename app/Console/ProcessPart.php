<?php

declare(strict_types=1);

namespace App\Console;

use App\Deliveries\FileProcess;
use Illuminate\Console\Command;

final class ProcessPart extends Command
{
    protected $signature = 'cossel:process-part {order : file that says what to render}';

    protected $description = 'Renders one worker\'s share of cossel:process';

    protected $hidden = true;

    public function handle(FileProcess $process): int
    {
        $process->part($this->argument('order'));

        return 0;
    }
}
