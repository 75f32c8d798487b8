<?php

declare(strict_types=1);

namespace App\Console;

use App\Server\Turns as Queue;
use Illuminate\Console\Command;
use React\EventLoop\Loop;

final class Turns extends Command
{
    protected $signature = 'cossel:turns {run : folder of the sockets} {at-a-time : pictures made at a time}';

    protected $description = 'Lets requests for pictures wait for their turn';

    protected $hidden = true;

    public function handle(): int
    {
        $run = $this->argument('run');
        (new Queue("{$run}/pictures.sock", (int) $this->argument('at-a-time')))->listen("{$run}/turns.sock");
        Loop::run();

        return 0;
    }
}
