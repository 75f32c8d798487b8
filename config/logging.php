<?php

declare(strict_types=1);

return [
    'default' => env('LOG_CHANNEL', 'daily'),
    'channels' => [
        'daily' => ['driver' => 'daily', 'path' => storage_path('logs/cossel.log'), 'level' => env('LOG_LEVEL', 'info'), 'days' => 14],
        'null' => ['driver' => 'monolog', 'handler' => Monolog\Handler\NullHandler::class],
    ],
];
