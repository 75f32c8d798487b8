<?php

declare(strict_types=1);

return [
    'default' => env('QUEUE_CONNECTION', 'database'),
    'connections' => [
        'sync' => ['driver' => 'sync'],
        'database' => [
            'driver' => 'database',
            // “Jobs” are pieces of work for people here; the queue's own table has another name.
            'table' => 'queue_jobs',
            'queue' => 'default',
            // Work held by a worker that died is let go when that worker comes back (see ReleaseWork), not by this clock.
            'retry_after' => 7200,
            'after_commit' => false,
        ],
        'redis' => [
            'driver' => 'redis',
            'connection' => 'default',
            'queue' => env('REDIS_QUEUE', 'default'),
            'retry_after' => 7200,
            'block_for' => 5,
        ],
    ],
    'failed' => ['driver' => 'null'],
];
