<?php

declare(strict_types=1);

namespace App\Work;

use Illuminate\Foundation\Queue\Queueable;

/** How all background work is queued: taken up again when a worker dies under it, given up at its first error. */
trait Background
{
    use Queueable;

    public int $timeout = 7200;

    public int $tries = 5;

    public int $maxExceptions = 1;
}
