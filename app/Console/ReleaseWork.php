<?php

declare(strict_types=1);

namespace App\Console;

use App\Work\HeldWork;
use Illuminate\Console\Command;

final class ReleaseWork extends Command
{
    protected $signature = 'cossel:release {worker? : name of the worker that died; all held work when left out}';

    protected $description = 'Lets other workers do what a dead worker held';

    public function handle(): int
    {
        HeldWork::release($this->argument('worker'));

        return 0;
    }
}
