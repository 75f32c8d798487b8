<?php

declare(strict_types=1);

namespace App\Work;

use Illuminate\Queue\Events\JobProcessing;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Event;

/**
 * Which worker holds which work, so that what a killed worker held can be done by another at once, without a clock
 * that would have to be longer than the longest work.
 */
final class HeldWork
{
    /** Notes the name of the worker (COSSEL_WORKER) on each piece of work it takes from the database queue. */
    public static function watch(): void
    {
        Event::listen(static function (JobProcessing $event): void {
            $worker = (string) getenv('COSSEL_WORKER');
            if ($worker !== '' && $event->connectionName === 'database') {
                DB::table('queue_jobs')->where('id', $event->job->getJobId())->update(['worker' => $worker]);
            }
        });
    }

    /** Lets go of what a worker held, or of all that is held when none is named. */
    public static function release(?string $worker): int
    {
        $held = DB::table('queue_jobs')->whereNotNull('reserved_at');
        if ($worker !== null) {
            $held->where('worker', $worker);
        }

        return $held->update(['reserved_at' => null, 'worker' => null]);
    }
}
