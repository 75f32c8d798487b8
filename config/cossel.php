<?php

declare(strict_types=1);

return [
    // In the keys of all that is kept of pictures and measures: a changed formula never shows an old result.
    'engine' => App\Engine::digest(base_path()),
    // Decoded frames and finished pictures; may be deleted at any time.
    'cache' => [
        'path' => env('COSSEL_CACHE', storage_path('cache')),
        'frames_bytes' => (int) env('COSSEL_CACHE_FRAMES_BYTES', 12 * 1024 ** 3),
        // Of one footage, once nobody looks at it: 20 seconds of it at the bench's size and half of that.
        'footage_bytes' => (int) env('COSSEL_CACHE_FOOTAGE_BYTES', 2_000_000_000),
        'faces_bytes' => (int) env('COSSEL_CACHE_FACES_BYTES', 1024 ** 3),
        'pictures_bytes' => (int) env('COSSEL_CACHE_PICTURES_BYTES', 2 * 1024 ** 3),
    ],
    // Names under which the application may be reached; anything else is refused.
    'hosts' => array_filter(explode(',', (string) env('COSSEL_HOSTS', '127.0.0.1,localhost,[::1]'))),
    // Folders of this server that footage may be taken from without being sent; nothing outside them is read.
    'folders' => array_filter(explode(':', (string) env('COSSEL_FOLDERS', ''))),
    // Whether faces are measured as soon as footage is in, yes or no; they are else when somebody is looked for or followed.
    'faces_ahead' => env('COSSEL_FACES_AHEAD', 'yes') === 'yes',
    'frames_a_part' => 12,
    // Whether ffmpeg can be put in a jail, yes or no; tried out where nothing is set.
    'jail' => env('COSSEL_JAIL'),
    // Where what supervises the server can be asked; set by ./cossel.
    'supervisor' => env('COSSEL_SUPERVISOR', ''),
];
