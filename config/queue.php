<?php

declare(strict_types=1);

return [
    'default' => env('QUEUE_CONNECTION', 'work'),
    'connections' => [
        'sync' => ['driver' => 'sync'],
        // “Jobs” are pieces of work for people here; the queue's own table has another name.
        'work' => ['driver' => 'work', 'table' => 'queue_jobs', 'queue' => App\Work\Queues::DELIVERIES],
    ],
    'failed' => ['driver' => 'null'],
];
