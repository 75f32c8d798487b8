<?php

declare(strict_types=1);

namespace Cossel\Core\Tests;

use PHPUnit\Framework\TestCase;

/** The direction of dependencies: the core knows of nothing outside, and its folders build on each other one way. */
final class ArchitectureTest extends TestCase
{
    /** What each folder may use besides itself. */
    private const MAY_USE = [
        'Geometry' => [],
        'Colour' => ['Geometry'],
        'Picture' => ['Colour', 'Geometry'],
        'Touch' => ['Colour', 'Geometry', 'Picture'],
        'Recipe' => ['Geometry', 'Touch'],
        'Pick' => ['Colour', 'Picture', 'Recipe', 'Touch'],
        'Face' => ['Geometry'],
        'Outline' => ['Face', 'Geometry', 'Picture', 'Recipe'],
        'Motion' => ['Face', 'Geometry', 'Outline', 'Picture', 'Recipe'],
        'Propose' => ['Colour', 'Face', 'Geometry', 'Motion', 'Outline', 'Picture', 'Recipe'],
        'Telltale' => ['Colour', 'Geometry', 'Motion', 'Outline', 'Picture', 'Recipe', 'Render', 'Touch'],
        'Render' => ['Colour', 'Motion', 'Outline', 'Pick', 'Picture', 'Recipe', 'Touch'],
        'Cut' => [],
        'Carry' => ['Colour', 'Face', 'Geometry', 'Motion', 'Outline', 'Picture', 'Propose', 'Recipe', 'Render', 'Touch'],
        'Judge' => ['Colour', 'Geometry', 'Outline', 'Picture', 'Recipe', 'Touch'],
    ];

    /** @return iterable<string, string> folder and file => source */
    private static function sources(): iterable
    {
        $files = new \RecursiveIteratorIterator(new \RecursiveDirectoryIterator(dirname(__DIR__) . '/src', \FilesystemIterator::SKIP_DOTS));
        foreach ($files as $file) {
            yield $file->getPathname() => (string) file_get_contents($file->getPathname());
        }
    }

    public function test_folders_use_only_what_lies_below_them(): void
    {
        foreach (self::sources() as $path => $source) {
            $folder = explode('/', substr($path, strlen(dirname(__DIR__) . '/src/')))[0];
            self::assertArrayHasKey($folder, self::MAY_USE, $path);
            preg_match_all('/Cossel\\\\Core\\\\(\w+)\\\\/', $source, $used);
            self::assertSame([], array_values(array_diff(array_unique($used[1]), [$folder, ...self::MAY_USE[$folder]])), $path);
        }
    }

    public function test_what_is_internal_to_a_folder_is_used_from_there_alone(): void
    {
        foreach (self::sources() as $path => $source) {
            preg_match_all('/Cossel\\\\Core\\\\(\w+)\\\\Internal\\\\/', $source, $used);
            self::assertSame([], array_diff($used[1], [explode('/', substr($path, strlen(dirname(__DIR__) . '/src/')))[0]]), $path);
        }
    }

    public function test_files_are_short_and_lines_fit_beside_each_other(): void
    {
        foreach (self::sources() as $path => $source) {
            $lines = explode("\n", $source);
            self::assertLessThanOrEqual(300, count($lines) - 1, $path);
            self::assertLessThanOrEqual(140, max(array_map(mb_strlen(...), $lines)), $path);
        }
    }

    public function test_the_core_knows_no_framework_file_process_or_global(): void
    {
        foreach (self::sources() as $path => $source) {
            self::assertDoesNotMatchRegularExpression('/\b(Illuminate|Symfony|App)\\\\|ffmpeg|\$_(GET|POST|SERVER|ENV)|\bglobal\b|\b(file_get_contents|file_put_contents|fopen|proc_open|exec|shell_exec|getenv|include|require)\s*\(/i', $source, $path);
        }
    }
}
