<?php

declare(strict_types=1);

return [
    'default' => 'data',
    'disks' => [
        // The framework would serve this one over HTTP otherwise.
        'local' => ['driver' => 'local', 'root' => storage_path('app'), 'serve' => false],
        // Uploads, footage, tracks and deliveries: what must be kept.
        'data' => ['driver' => 'local', 'root' => env('COSSEL_DATA', storage_path('data')), 'throw' => true],
    ],
];
