<?php

declare(strict_types=1);

namespace App\Console;

use App\Upkeep\Leftovers;
use App\Upkeep\Waiting;
use Illuminate\Console\Command;

final class Keep extends Command
{
    /** What is done, and after how many seconds again. */
    private const EVERY = ['letGo' => 2, 'ask' => 5, 'lineUp' => 15, 'clear' => 20, 'keepBounds' => 60];

    protected $signature = 'cossel:keep {--once : everything one time}';

    protected $description = 'Keeps work going and the disk clear, as long as it runs';

    public function handle(Waiting $waiting, Leftovers $leftovers): int
    {
        $acts = ['letGo' => $waiting->letGo(...), 'ask' => $waiting->ask(...), 'lineUp' => $waiting->lineUp(...), 'clear' => $leftovers->clear(...), 'keepBounds' => $leftovers->keepBounds(...)];
        for ($second = 0; ; ++$second) {
            foreach ($acts as $name => $act) {
                if ($second % self::EVERY[$name] === 0) {
                    // A database that is locked or a disk that is full is no reason to stop: the next time comes.
                    rescue($act);
                }
            }
            if ($this->option('once')) {
                return 0;
            }
            sleep(1);
        }
    }
}
