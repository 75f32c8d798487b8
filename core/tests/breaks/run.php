<?php

declare(strict_types=1);

/**
 * Breaks the core on purpose, one line at a time, on a copy, and sees that a quick test fails each time:
 * php core/tests/breaks/run.php [part of a name]
 */
$root = dirname(__DIR__, 3);
require "{$root}/vendor/autoload.php";
$breaks = require __DIR__ . '/breaks.php';
$files = new Illuminate\Filesystem\Filesystem();
$copy = sys_get_temp_dir() . '/cossel-breaks-' . bin2hex(random_bytes(4));
$files->copyDirectory("{$root}/core/src", "{$copy}/src");
// Classes of the core are taken from the copy, all else from where it is.
file_put_contents("{$copy}/bootstrap.php", sprintf(
    '<?php $loader = require %s; spl_autoload_register(static function (string $class): void { $file = %s . strtr(substr($class, 12), "\\\\", "/") . ".php"; if (str_starts_with($class, "Cossel\\\\Core\\\\") && is_file($file)) { require $file; } }, prepend: true);',
    var_export("{$root}/vendor/autoload.php", true),
    var_export("{$copy}/src/", true),
));
$phpunit = static function (string $filter) use ($root, $copy): bool {
    exec(sprintf('%s -c %s --bootstrap %s --do-not-cache-result --filter %s 2>&1', escapeshellarg("{$root}/vendor/bin/phpunit"), escapeshellarg("{$root}/core/phpunit.xml"), escapeshellarg("{$copy}/bootstrap.php"), escapeshellarg($filter)), $lines, $status);

    return $status === 0;
};
$missed = [];
try {
    foreach ($breaks as $name => [$file, $line, $broken, $tests]) {
        if (!str_contains($name, $argv[1] ?? '')) {
            continue;
        }
        $source = (string) file_get_contents("{$root}/core/src/{$file}");
        if (substr_count($source, $line) !== 1) {
            $missed[] = "{$name}: “{$line}” is not there once in {$file}";
            continue;
        }
        file_put_contents("{$copy}/src/{$file}", str_replace($line, $broken, $source));
        $passed = $phpunit($tests);
        file_put_contents("{$copy}/src/{$file}", $source);
        fwrite(STDERR, sprintf("%s %s\n", $passed ? '✖ not noticed:' : '✔', $name));
        if ($passed) {
            $missed[] = "{$name}: {$tests} passes all the same";
        }
    }
    // Whole, all of these tests pass: a break that “fails” with them broken anyway would say nothing.
    $all = implode('|', array_unique(array_column($breaks, 3)));
    if (!isset($argv[1]) && !$phpunit($all)) {
        $missed[] = 'the tests fail with nothing broken';
    }
} finally {
    $files->deleteDirectory($copy);
}
fwrite(STDERR, implode("\n", $missed) . ($missed === [] ? '' : "\n"));
exit($missed === [] ? 0 : 1);
