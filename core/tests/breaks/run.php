<?php

declare(strict_types=1);

/**
 * Breaks the core on purpose, one line at a time, on a copy, and sees that a quick test fails each time; prints the score.
 * php core/tests/breaks/run.php [part of a name, or of a file]
 */
use Fidry\CpuCoreCounter\CpuCoreCounter;
use Illuminate\Filesystem\Filesystem;
use Symfony\Component\Process\Process;

$root = dirname(__DIR__, 3);
require "{$root}/vendor/autoload.php";
$asked = $argv[1] ?? '';
$breaks = array_filter(
    require __DIR__ . '/breaks.php',
    static fn(array $break, string $name): bool => str_contains($name, $asked) || str_contains($break[0], $asked),
    ARRAY_FILTER_USE_BOTH,
);
$files = new Filesystem();
$home = sys_get_temp_dir() . '/cossel-breaks-' . bin2hex(random_bytes(4));

// Each core of the machine works on a copy of its own. Classes of the core are taken from there, all else from where it is.
$copies = [];
foreach (range(1, (new CpuCoreCounter())->getCountWithFallback(1)) as $k) {
    $files->copyDirectory("{$root}/core/src", "{$home}/{$k}/src");
    file_put_contents("{$home}/{$k}/bootstrap.php", sprintf(
        '<?php require %s; spl_autoload_register(static function (string $class): void { $file = %s . strtr(substr($class, 12), "\\\\", "/") . ".php"; if (str_starts_with($class, "Cossel\\\\Core\\\\") && is_file($file)) { require $file; } }, prepend: true);',
        var_export("{$root}/vendor/autoload.php", true),
        var_export("{$home}/{$k}/src/", true),
    ));
    $copies[$k] = "{$home}/{$k}";
}
$tests = static fn(string $runner, string $filter, string ...$options): Process => new Process(
    [PHP_BINARY, "{$root}/vendor/bin/{$runner}", '-c', "{$root}/core/phpunit.xml", '--cache-directory', $home, '--exclude-group', 'slow', '--stop-on-defect', '--filter', $filter, ...$options],
    timeout: 600,
);
$missed = $running = [];
$noticed = 0;
$all = implode('|', array_unique(array_column($breaks, 3)));
try {
    // Whole, all of these tests pass: a break that “fails” with them broken anyway would say nothing.
    $whole = $tests('paratest', $all);
    $began = microtime(true);
    if ($whole->run() !== 0) {
        $missed[] = 'the tests fail with nothing broken';
    }
    $seconds = microtime(true) - $began;
    $waiting = $breaks;
    while ($waiting !== [] || $running !== []) {
        foreach ($running as $k => [$name, $process]) {
            if ($process->isRunning()) {
                continue;
            }
            [$file, , , $filter] = $breaks[$name];
            $files->copy("{$root}/core/src/{$file}", "{$copies[$k]}/src/{$file}");
            unset($running[$k]);
            $passed = $process->getExitCode() === 0;
            $noticed += $passed ? 0 : 1;
            fwrite(STDERR, sprintf("%s %s\n", $passed ? '✖ not noticed:' : '✔', $name));
            if ($passed) {
                $missed[] = "{$name}: {$filter} passes all the same";
            }
        }
        foreach (array_keys($copies) as $k) {
            if (isset($running[$k]) || $waiting === []) {
                continue;
            }
            $name = (string) array_key_first($waiting);
            [$file, $line, $broken, $filter] = array_shift($waiting);
            $source = (string) file_get_contents("{$root}/core/src/{$file}");
            if (substr_count($source, $line) !== 1) {
                $missed[] = "{$name}: “{$line}” is not there once in {$file}";
                continue;
            }
            file_put_contents("{$copies[$k]}/src/{$file}", str_replace($line, $broken, $source));
            $process = $tests('phpunit', $filter, '--bootstrap', "{$copies[$k]}/bootstrap.php");
            $process->start();
            $running[$k] = [$name, $process];
        }
        usleep(5000);
    }
} finally {
    $files->deleteDirectory($home);
}
fwrite(STDERR, implode("\n", $missed) . ($missed === [] ? '' : "\n"));
fwrite(STDERR, sprintf("%d of %d breaks noticed, by tests that take %.0f s\n", $noticed, count($breaks), $seconds));
exit($missed === [] ? 0 : 1);
