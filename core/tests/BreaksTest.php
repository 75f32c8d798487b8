<?php

declare(strict_types=1);

namespace Cossel\Core\Tests;

use PHPUnit\Framework\TestCase;

/** The list of named breaks fits the code as it stands; whether each is noticed takes longer to see. */
final class BreaksTest extends TestCase
{
    public function test_every_break_finds_its_line_once_and_names_tests_there_are(): void
    {
        /** @var array<string, array{string, string, string, string}> $breaks */
        $breaks = require __DIR__ . '/breaks/breaks.php';
        $wrong = [];
        foreach ($breaks as $name => [$file, $line, , $filter]) {
            if (substr_count((string) file_get_contents(dirname(__DIR__) . "/src/{$file}"), $line) !== 1) {
                $wrong[] = "{$name}: “{$line}” is not there once in {$file}";
            }
            foreach (explode('|', $filter) as $test) {
                $file = strtr(explode('::', $test)[0], '\\', '/') . '.php';
                if ([...glob(__DIR__ . "/{$file}") ?: [], ...glob(__DIR__ . "/*/{$file}") ?: []] === []) {
                    $wrong[] = "{$name}: there is no {$test}";
                }
            }
        }
        self::assertSame([], $wrong);
    }
}
