<?php

declare(strict_types=1);

namespace App\Work;

use Illuminate\Contracts\Queue\Job;
use Illuminate\Queue\Events\JobExceptionOccurred;
use Illuminate\Queue\Events\JobFailed;
use Illuminate\Queue\Events\JobProcessed;
use Illuminate\Queue\Events\JobProcessing;
use Illuminate\Support\Facades\Cache;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Event;

/**
 * Work that takes more memory than it may have ends its worker, and what ended a worker is taken up by another, as after a kill. But it
 * would end every one: so it counts as something that went wrong, like any other failure, and is given up as soon.
 */
final class OutOfMemory extends \RuntimeException
{
    private static ?Job $held = null;
    private static bool $watches = false;

    public static function create(): self
    {
        return new self('This takes more memory than it may have.');
    }

    public static function watch(): void
    {
        Event::listen(static function (JobProcessing $event): void {
            self::$held = $event->job;
        });
        Event::listen([JobProcessed::class, JobFailed::class, JobExceptionOccurred::class], static function (): void {
            self::$held = null;
        });
        if (!self::$watches) {
            self::$watches = true;
            register_shutdown_function(self::note(...));
        }
    }

    /** At the end of the process: whether memory is why it ends, and what it did then. */
    private static function note(): void
    {
        $job = self::$held;
        if ($job === null || !str_starts_with(error_get_last()['message'] ?? '', 'Allowed memory size')) {
            return;
        }
        // What is left to do needs a little more than there was.
        ini_set('memory_limit', (string) (memory_get_usage(true) + 64 * 1024 ** 2));
        while (DB::transactionLevel() > 0) {
            DB::rollBack();
        }
        $times = 1 + (int) Cache::get($key = "job-exceptions:{$job->uuid()}", 0);
        Cache::put($key, $times, now()->addDay());
        if ($times >= $job->maxExceptions()) {
            $job->fail(self::create());
        } else {
            $job->release(1);
        }
    }
}
