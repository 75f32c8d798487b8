<?php

declare(strict_types=1);

return [
    'default' => 'sqlite',
    'connections' => [
        'sqlite' => [
            'driver' => 'sqlite',
            'database' => env('DB_DATABASE', env('COSSEL_DATA', storage_path('data')) . '/cossel.sqlite'),
            'prefix' => '',
            'foreign_key_constraints' => true,
            // Readers never wait for a writer; a writer waits up to ten seconds for another. What was answered for is on the disk,
            // also when the power fails.
            'journal_mode' => 'wal',
            'synchronous' => 'full',
            'busy_timeout' => 10000,
            'transaction_mode' => 'IMMEDIATE',
        ],
    ],
    'migrations' => ['table' => 'migrations', 'update_date_on_publish' => true],
];
