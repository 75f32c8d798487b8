<?php

declare(strict_types=1);

namespace App\Work;

use Illuminate\Database\Connection;
use Illuminate\Database\Query\Builder;
use Illuminate\Queue\DatabaseQueue;
use Illuminate\Queue\Jobs\DatabaseJob;
use Illuminate\Queue\Jobs\DatabaseJobRecord;

/**
 * The database's queue with turns, and with work that is held by a living worker instead of for a time: what a dead worker
 * held is let go at once, what a living one holds never, whatever the clock says.
 */
final class WorkQueue extends DatabaseQueue
{
    /** Seconds that work is put off by at the most; more than that is a clock that was set back. */
    private const LONGEST_WAIT = 60;

    public function __construct(Connection $database, string $table, string $default, private readonly WorkerLock $lock)
    {
        parent::__construct($database, $table, $default);
    }

    /** Lets go of what workers held that live no longer. */
    public function letGo(): int
    {
        $names = $this->rows()->whereNotNull('worker')->distinct()->pluck('worker')->all();
        $dead = array_filter($names, fn(string $name): bool => !$this->lock->lives($name));

        return $dead === [] ? 0 : $this->rows()->whereIn('worker', $dead)->update(['reserved_at' => null, 'worker' => null]);
    }

    /** Whether any work waits or is being done for a row, as in “shot 12”. */
    public function isAbout(string $about): bool
    {
        return $this->rows()->where('about', $about)->exists();
    }

    /** The turn of what is next in a queue: where newcomers line up. */
    public function turn(string $queue): int
    {
        return (int) $this->rows()->where('queue', $queue)->min('turn');
    }

    /** @return array<string, int> the turn of what waits in a queue, by the row it is for */
    public function turns(string $queue): array
    {
        return $this->rows()->where('queue', $queue)->whereNull('reserved_at')->pluck('turn', 'about')->map(static fn(mixed $turn): int => (int) $turn)->all();
    }

    /** Gives what waits for a row another turn. */
    public function moveTo(string $queue, string $about, int $turn): void
    {
        $this->rows()->where('queue', $queue)->where('about', $about)->whereNull('reserved_at')->update(['turn' => $turn]);
    }

    /**
     * @param string $queue
     * @param string $id
     */
    public function deleteReserved($queue, $id): void
    {
        Patience::until(fn() => parent::deleteReserved($queue, $id));
    }

    /**
     * @param string      $queue
     * @param DatabaseJob $job
     * @param int         $delay
     */
    public function deleteAndRelease($queue, $job, $delay): void
    {
        Patience::until(fn() => parent::deleteAndRelease($queue, $job, $delay));
    }

    /**
     * @param object $job
     * @param string $queue
     *
     * @return array<string, mixed>
     */
    protected function createObjectPayload($job, $queue): array
    {
        \assert($job instanceof Piece);

        return [...parent::createObjectPayload($job, $queue), 'about' => $job->about(), 'turn' => $job->turn()];
    }

    /**
     * @param string|null $queue
     * @param string      $payload
     * @param int         $availableAt
     * @param int         $attempts
     *
     * @return array<string, mixed>
     */
    protected function buildDatabaseRecord($queue, $payload, $availableAt, $attempts = 0): array
    {
        $told = json_decode($payload, true, flags: JSON_THROW_ON_ERROR);

        return [...parent::buildDatabaseRecord($queue, $payload, $availableAt, $attempts), 'about' => $told['about'] ?? '', 'turn' => $told['turn'] ?? 0];
    }

    /** @param string|null $queue */
    protected function getNextAvailableJob($queue): ?DatabaseJobRecord
    {
        $now = $this->currentTime();
        $row = $this->rows()
            ->where('queue', $this->getQueue($queue))
            // A worker does one thing at a time: what it still holds when it asks for more was not put back for want of the database.
            ->where(fn(Builder $held) => $held->whereNull('reserved_at')->orWhere('worker', $this->lock->name()))
            ->where(static fn(Builder $due) => $due->where('available_at', '<=', $now)->orWhere('available_at', '>', $now + self::LONGEST_WAIT))
            ->orderBy('turn')
            ->orderBy('id')
            ->first();

        return $row === null ? null : new DatabaseJobRecord($row);
    }

    /** @param DatabaseJobRecord $job */
    protected function markJobAsReserved($job): DatabaseJobRecord
    {
        \assert(isset($job->id));
        $this->rows()->where('id', $job->id)->update(['reserved_at' => $job->touch(), 'attempts' => $job->increment(), 'worker' => $this->lock->name()]);

        return $job;
    }

    private function rows(): Builder
    {
        return $this->database->table($this->table);
    }
}
