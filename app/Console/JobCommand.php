<?php

declare(strict_types=1);

namespace App\Console;

use App\Models\Job;
use App\Models\Shot;
use App\Work\WorkQueue;
use Illuminate\Console\Command;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\Queue;

/**
 * What is done to shots of a job without the interface, beside a server or without one. Exit codes: 0 done; 1 something of it could not be
 * done; 2 wrong use. With --json what is told goes to standard output as one document.
 */
abstract class JobCommand extends Command
{
    protected const DONE = 0;
    protected const PARTLY = 1;
    protected const WRONG = 2;

    /** @throws WrongUse */
    protected function job(): Job
    {
        $name = (string) $this->option('job');
        if ($name === '') {
            throw WrongUse::because('--job is missing.');
        }

        return Job::where('name', $name)->first() ?? throw WrongUse::because("There is no job “{$name}”.");
    }

    /**
     * @param list<string> $names none for all
     *
     * @return Collection<int, Shot>
     *
     * @throws WrongUse
     */
    protected function shots(Job $job, array $names): Collection
    {
        $shots = $job->shots()->where('archived', false)->get()->toBase();
        $unknown = array_diff($names, $shots->pluck('name')->all());
        if ($unknown !== []) {
            throw WrongUse::because('There is no shot “' . reset($unknown) . '” in this job.');
        }

        return $names === [] ? $shots : $shots->whereIn('name', $names)->values();
    }

    /**
     * Does what waits in a queue until nothing is open any more; workers of a server that runs help along.
     *
     * @param callable(): bool $isOpen
     */
    protected function work(string $queue, callable $isOpen): void
    {
        while ($isOpen()) {
            Artisan::call('queue:work', ['--queue' => $queue, '--stop-when-empty' => true, '--quiet' => true]);
            $connection = Queue::connection();
            // What others hold is waited for; what they left when they died is let go.
            if ($connection instanceof WorkQueue && $connection->letGo() === 0) {
                usleep(200_000);
            }
        }
    }

    /**
     * @param callable(): int $act
     */
    protected function guarded(callable $act): int
    {
        try {
            return $act();
        } catch (\RuntimeException|\DomainException $reason) {
            return $this->refuse($reason->getMessage(), $reason instanceof WrongUse ? self::WRONG : self::PARTLY);
        }
    }

    /**
     * @param array<array-key, mixed> $document
     * @param list<string>            $lines    the same for people
     */
    protected function tell(array $document, array $lines): void
    {
        if ($this->option('json')) {
            $this->output->writeln(json_encode($document, JSON_THROW_ON_ERROR | JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE), \Symfony\Component\Console\Output\OutputInterface::OUTPUT_RAW);

            return;
        }
        array_map(fn(string $line) => $this->line($line), $lines);
    }

    protected function refuse(string $reason, int $exit): int
    {
        $this->output->getErrorStyle()->writeln(str_replace('cossel:', 'cossel ', (string) $this->getName()) . ": {$reason}");

        return $exit;
    }
}
