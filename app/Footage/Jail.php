<?php

declare(strict_types=1);

namespace App\Footage;

use Symfony\Component\Process\Process;

/**
 * Puts bounds around a program that reads foreign files: its memory, processor time and files are limited, it ends with the
 * process that started it, and where the system offers bubblewrap it sees no network and no file but those it is given.
 */
final class Jail
{
    private static ?bool $offered = null;

    /**
     * @param list<string> $command
     * @param list<string> $reads   files and folders it may read
     * @param list<string> $writes  folders it may write in
     *
     * @return list<string>
     */
    public static function around(array $command, array $reads, array $writes): array
    {
        $limits = config('limits.ffmpeg');
        $bounded = ['prlimit', "--as={$limits['memory_bytes']}", "--cpu={$limits['cpu_seconds']}", "--fsize={$limits['file_bytes']}", '--core=0'];
        if (!self::isOffered()) {
            return [...$bounded, 'setpriv', '--pdeathsig', 'KILL', ...$command];
        }
        $sees = [];
        foreach ($reads as $path) {
            array_push($sees, '--ro-bind-try', $path, $path);
        }
        foreach ($writes as $path) {
            array_push($sees, '--bind', $path, $path);
        }

        return [...$bounded, ...self::walls(), ...$sees, '--chdir', '/', ...$command];
    }

    /** Whether the system lets us build one; some containers do not. */
    public static function isOffered(): bool
    {
        // A server is told once; asked anew, each request would wait for it.
        return self::$offered ??= config('cossel.jail') !== null ? config('cossel.jail') === 'yes' : (static function (): bool {
            try {
                return (new Process([...self::walls(), 'ffmpeg', '-version'], timeout: 10))->run() === 0;
            } catch (\Throwable) {
                return false;
            }
        })();
    }

    /** @return list<string> */
    private static function walls(): array
    {
        $walls = ['bwrap', '--unshare-all', '--die-with-parent', '--new-session', '--clearenv', '--setenv', 'PATH', '/usr/bin:/bin', '--ro-bind', '/usr', '/usr'];
        foreach (['/bin', '/lib', '/lib64'] as $path) {
            array_push($walls, ...(is_link($path) ? ['--symlink', 'usr' . $path, $path] : ['--ro-bind-try', $path, $path]));
        }

        return [...$walls, '--ro-bind-try', '/etc/alternatives', '/etc/alternatives', '--ro-bind-try', '/etc/ld.so.cache', '/etc/ld.so.cache', '--proc', '/proc', '--dev', '/dev', '--tmpfs', '/tmp'];
    }
}
