<?php

declare(strict_types=1);

namespace App\Work;

/**
 * Says whether a worker lives: each holds a lock on a file of its own as long as its process runs, and the system lets go
 * of it in the instant that it ends, however it ends. No clock is asked, which may jump, and no number of a process, which
 * may be given again.
 */
final class WorkerLock
{
    /** @var resource|null */
    private mixed $held = null;

    private string $name = '';

    public function __construct(private readonly string $folder) {}

    /** The name of this process among workers; it lives from the first time it is asked for. */
    public function name(): string
    {
        if ($this->held === null) {
            is_dir($this->folder) || @mkdir($this->folder, recursive: true);
            $this->name = bin2hex(random_bytes(8));
            // Not handed on to programs that are started from here: they may outlive this one.
            $file = fopen("{$this->folder}/{$this->name}", 'ce');
            if ($file === false || !flock($file, LOCK_EX | LOCK_NB)) {
                throw new \RuntimeException("The folder {$this->folder} cannot be written to.");
            }
            $this->held = $file;
            $this->answer($file);
        }

        return $this->name;
    }

    /** Asks all workers whether they still get anywhere. One that waits in the system for something that never comes does not answer. */
    public function ask(): void
    {
        foreach ($this->living() as $name => $pid) {
            $pid === null || @posix_kill($pid, SIGUSR1);
        }
        @touch($this->asked());
    }

    /** @return list<int> numbers of the processes of workers that have not answered for so many seconds */
    public function silent(int $seconds): array
    {
        clearstatcache();
        $asked = @filemtime($this->asked());

        return array_values(array_filter($this->living(), fn(?int $pid, string $name): bool => $pid !== null && $asked !== false && $asked - (int) @filemtime("{$this->folder}/{$name}") > $seconds, ARRAY_FILTER_USE_BOTH));
    }

    public function lives(string $name): bool
    {
        $file = @fopen("{$this->folder}/" . basename($name), 're');
        if ($file === false) {
            return false;
        }
        $free = flock($file, LOCK_EX | LOCK_NB);
        fclose($file);

        return !$free;
    }

    /** @return list<string> names of those that no longer live */
    public function dead(): array
    {
        return array_values(array_filter(array_map(basename(...), glob("{$this->folder}/*") ?: []), fn(string $name): bool => !$this->lives($name)));
    }

    public function forget(string $name): void
    {
        @unlink("{$this->folder}/" . basename($name));
    }

    /** @return array<string, int|null> numbers of the processes of those that live, where they have told them */
    private function living(): array
    {
        $names = array_filter(array_map(basename(...), glob("{$this->folder}/*") ?: []), $this->lives(...));

        return array_combine($names, array_map(fn(string $name): ?int => (int) @file_get_contents("{$this->folder}/{$name}") ?: null, $names));
    }

    /**
     * Between two steps of whatever it does, a worker answers by the time of its file. Only once it can is its number told: a process
     * that knows nothing of the signal ends by it.
     *
     * @param resource $file
     */
    private function answer(mixed $file): void
    {
        if (function_exists('pcntl_async_signals')) {
            pcntl_async_signals(true);
            pcntl_signal(SIGUSR1, fn() => @touch("{$this->folder}/{$this->name}"));
            fwrite($file, (string) getmypid());
            fflush($file);
        }
    }

    private function asked(): string
    {
        return "{$this->folder}.asked";
    }
}
