<?php

declare(strict_types=1);

// For PHP's own server: built files are served as they are, everything else goes to the application.
$path = rawurldecode((string) parse_url((string) $_SERVER['REQUEST_URI'], PHP_URL_PATH));
if (str_starts_with($path, '/app/') && is_file(__DIR__ . $path)) {
    return false;
}

require __DIR__ . '/index.php';
