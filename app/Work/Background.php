<?php

declare(strict_types=1);

namespace App\Work;

use Illuminate\Foundation\Queue\Queueable;

/**
 * How all background work is queued. A worker that dies under it costs nothing but the time: it is taken up by another.
 * What goes wrong is tried again twice, as when ffmpeg was ended from outside; work that ends every worker which takes it
 * is given up in the end. Each piece is idempotent: begun again anywhere, it comes to the same.
 */
trait Background
{
    use Queueable;

    public int $timeout = 7200;

    public int $tries = 25;

    public int $maxExceptions = 3;

    /** @var list<int> seconds to wait before it is tried again */
    public array $backoff = [1, 5];

    /** @return list<object> */
    public function middleware(): array
    {
        return [new Patience()];
    }

    public function again(): void
    {
        $this->job = null;
        dispatch($this);
    }

    public function turn(): int
    {
        return 0;
    }
}
