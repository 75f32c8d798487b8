<?php

declare(strict_types=1);

namespace App\Work;

use Illuminate\Database\DatabaseManager;
use Illuminate\Queue\Connectors\ConnectorInterface;

final class WorkConnector implements ConnectorInterface
{
    public function __construct(private readonly DatabaseManager $connections, private readonly WorkerLock $lock) {}

    /** @param array<string, mixed> $config */
    public function connect(array $config): WorkQueue
    {
        return new WorkQueue($this->connections->connection(), $config['table'], $config['queue'], $this->lock);
    }
}
