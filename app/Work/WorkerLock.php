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
        }

        return $this->name;
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
}
