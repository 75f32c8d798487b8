<?php

declare(strict_types=1);

namespace App\Console;

use App\Server\Settings;
use Illuminate\Console\Command;

final class Configure extends Command
{
    protected $signature = 'cossel:configure {run : folder to write into} {port} {--workers=2} {--pictures=2} {--light=4}';

    protected $description = 'Writes the settings of the server';

    protected $hidden = true;

    public function handle(Settings $settings): int
    {
        $settings->write($this->argument('run'), (int) $this->argument('port'), (int) $this->option('workers'), (int) $this->option('pictures'), (int) $this->option('light'));

        return 0;
    }
}
