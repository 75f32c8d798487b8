<?php

declare(strict_types=1);

namespace App\Database;

use Illuminate\Database\Connectors\SQLiteConnector;

/** Laravel honours the configured transaction mode only from PHP 8.4 on; before, the connection itself sees to it. */
final class WritingConnector extends SQLiteConnector
{
    /** @param array<int, mixed> $options */
    protected function createPdoConnection($dsn, $username, #[\SensitiveParameter] $password, $options)
    {
        return PHP_VERSION_ID < 80400 ? new WritingPdo($dsn, $username, $password, $options) : parent::createPdoConnection($dsn, $username, $password, $options);
    }
}
