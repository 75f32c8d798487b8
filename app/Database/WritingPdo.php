<?php

declare(strict_types=1);

namespace App\Database;

/**
 * Transactions that hold the write lock from their first statement. One that only asks for it at its first write is
 * refused at once ("database is locked"), whatever the time-out, when another has written since it began to read.
 */
final class WritingPdo extends \PDO
{
    private bool $open = false;

    public function beginTransaction(): bool
    {
        return $this->open = $this->exec('BEGIN IMMEDIATE TRANSACTION') !== false;
    }

    public function commit(): bool
    {
        $done = $this->exec('COMMIT') !== false;
        $this->open = false;

        return $done;
    }

    public function rollBack(): bool
    {
        $this->open = false;

        return $this->exec('ROLLBACK') !== false;
    }

    public function inTransaction(): bool
    {
        return $this->open;
    }
}
