<?php

declare(strict_types=1);

namespace Tests\App;

use Illuminate\Filesystem\Filesystem;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Symfony\Component\Process\Process;

/** The program itself, as it is called from a command line. */
final class ProgramTest extends TestCase
{
    /** @return iterable<string, array{string}> */
    public static function commands(): iterable
    {
        foreach (['import', 'deliver', 'carry', 'report', 'bundle', 'process', 'backup', 'restore'] as $command) {
            yield $command => [$command];
        }
    }

    #[DataProvider('commands')]
    public function test_every_command_comes_to_its_own_help(string $command): void
    {
        $root = dirname(__DIR__, 2);
        $folder = sys_get_temp_dir() . '/cossel-program-' . getmypid();
        $program = new Process(["{$root}/cossel", $command, '--help'], sys_get_temp_dir(), ['COSSEL_DATA' => "{$folder}/data", 'COSSEL_CACHE' => "{$folder}/cache", 'APP_ENV' => 'local', 'DB_DATABASE' => false], timeout: 120);
        try {
            $program->run();
        } finally {
            (new Filesystem())->deleteDirectory($folder);
        }
        self::assertSame(0, $program->getExitCode(), $program->getErrorOutput());
        self::assertStringContainsString("cossel:{$command} ", $program->getOutput());
    }
}
