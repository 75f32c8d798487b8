<?php

declare(strict_types=1);

namespace App\Footage;

use Symfony\Component\Process\Process;

/**
 * Puts bounds around a program that reads foreign files: its memory, processor time and files are limited, it ends with the
 * process that started it and knows nothing of its surroundings, and where the system offers bubblewrap it sees no network and no file
 * but those it is given, may do nothing as root, and asks nothing of the system that films are not made by.
 */
final class Jail
{
    private const PATH = '/usr/bin:/bin';
    /** A filter of system calls, compiled for this machine's processors, that comes with bubblewrap's package. */
    private const FILTER = '/usr/share/doc/bubblewrap/examples/flatpak.bpf';

    /** What is ended in there says how much processor time it took, which nobody outside is told. */
    private const TELLS = '"$@"; ended=$?; [ $ended -lt 128 ] || times >&2; exit $ended';

    private static ?bool $offered = null;
    private static ?bool $filtered = null;

    /**
     * @param list<string> $command
     * @param list<string> $reads   files and folders it may read
     * @param list<string> $writes  folders it may write in
     * @param string       $work    what it does, of those whose processor time is limited
     *
     * @return list<string>
     */
    public static function around(array $command, array $reads, array $writes, string $work = 'read'): array
    {
        $limits = config('limits.ffmpeg');
        // Told that its time is over, and ended a little later.
        $cpu = sprintf('%d:%d', $limits['cpu_seconds'][$work], $limits['cpu_seconds'][$work] + 5);
        $bounded = ['env', '-i', 'PATH=' . (getenv('PATH') ?: self::PATH), 'prlimit', "--as={$limits['memory_bytes']}", "--cpu={$cpu}", "--fsize={$limits['file_bytes']}", '--core=0'];
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

        return [...self::filtered(), ...$bounded, ...self::walls(self::isFiltered()), ...$sees, '--chdir', '/', 'prlimit', "--nproc={$limits['processes']}", 'sh', '-c', self::TELLS, 'sh', ...$command];
    }

    /** Whether the system lets us build one; some containers do not. */
    public static function isOffered(): bool
    {
        // A server is told once; asked anew, each request would wait for it.
        return config('cossel.jail') !== null ? config('cossel.jail') === 'yes' : (self::$offered ??= self::works(false));
    }

    /** Seconds of processor time that what was ended in a jail says that it took; 0 where it says nothing. */
    public static function told(string $said): float
    {
        return preg_match('/^(\d+)m([\d.]+)s (\d+)m([\d.]+)s\s*\z/m', $said, $m) === 1 ? 60 * ((int) $m[1] + (int) $m[3]) + (float) $m[2] + (float) $m[4] : 0.0;
    }

    private static function isFiltered(): bool
    {
        return self::$filtered ??= is_readable(self::FILTER) && self::works(true);
    }

    /** @return list<string> a shell that hands the filter on, opened, and becomes what follows */
    private static function filtered(?bool $filtered = null): array
    {
        return ($filtered ?? self::isFiltered()) ? ['sh', '-c', 'exec "$@" 3<"$0"', self::FILTER] : [];
    }

    private static function works(bool $filtered): bool
    {
        try {
            return (new Process([...self::filtered($filtered), ...self::walls($filtered), 'ffmpeg', '-version'], timeout: 10))->run() === 0;
        } catch (\Throwable) {
            return false;
        }
    }

    /** @return list<string> */
    private static function walls(bool $filtered): array
    {
        $walls = ['bwrap', '--unshare-all', '--die-with-parent', '--new-session', '--cap-drop', 'ALL', ...($filtered ? ['--seccomp', '3'] : []), '--clearenv', '--setenv', 'PATH', self::PATH, '--ro-bind', '/usr', '/usr'];
        foreach (['/bin', '/lib', '/lib64'] as $path) {
            array_push($walls, ...(is_link($path) ? ['--symlink', 'usr' . $path, $path] : ['--ro-bind-try', $path, $path]));
        }

        return [...$walls, '--ro-bind-try', '/etc/alternatives', '/etc/alternatives', '--ro-bind-try', '/etc/ld.so.cache', '/etc/ld.so.cache', '--proc', '/proc', '--dev', '/dev', '--size', (string) config('limits.ffmpeg.temporary_bytes'), '--tmpfs', '/tmp'];
    }
}
