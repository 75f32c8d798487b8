<?php

declare(strict_types=1);

namespace App;

use App\Footage\Jail;
use App\Server\Supervised;
use App\Upkeep\Upgrade;
use App\Work\WorkerLock;
use Illuminate\Support\Facades\DB;
use Symfony\Component\Process\Process;

/** Whether what Cossel stands on is well: each in a sentence where it is not. */
final class Health
{
    /** Less room than this and neither frames nor deliveries find a place. */
    private const ROOM = 1024 ** 3;
    /** Seconds without an answer after which a worker is told of. */
    private const SILENT = 60;

    /** @return array<string, string|null> null is well */
    public static function report(): array
    {
        $checks = ['database' => self::database(...), 'disk' => self::disk(...), 'ffmpeg' => self::ffmpeg(...), 'ffi' => self::ffi(...), 'jit' => self::jit(...), 'server' => self::server(...), 'workers' => self::workers(...)];

        return array_map(static function (\Closure $check): ?string {
            try {
                return $check();
            } catch (\Throwable $reason) {
                report($reason);

                return 'It does not answer; the log of the server tells why.';
            }
        }, $checks);
    }

    private static function database(): ?string
    {
        // A lock for writing and nothing written: whether it could be.
        DB::transaction(static fn() => null);

        return !Upgrade::isNeeded() ? null : 'The database is of an earlier release. Start Cossel with ./cossel start, which brings it up to date.';
    }

    private static function disk(): ?string
    {
        foreach (['The data' => config('filesystems.disks.data.root'), 'The cache' => config('cossel.cache.path')] as $name => $folder) {
            if (!is_dir($folder) && !@mkdir($folder, recursive: true) || !is_writable($folder)) {
                return "{$name} folder cannot be written to.";
            }
            if (disk_free_space($folder) < self::ROOM) {
                return "{$name} folder has less than one gigabyte left.";
            }
        }

        return null;
    }

    private static function ffmpeg(): ?string
    {
        foreach (['ffmpeg', 'ffprobe'] as $program) {
            if ((new Process([$program, '-version'], timeout: 5))->run() !== 0) {
                return "{$program} does not run. Install it, or let ./cossel do so.";
            }
        }

        return null;
    }

    /** Of what supervisord was told to run, where it runs at all. */
    private static function server(): ?string
    {
        $down = array_filter(Supervised::programs(), static fn(array $program): bool => !$program['runs']);

        return $down === [] ? null : implode(', ', array_column($down, 'name')) . ' does not run. It is started again and again; its log in storage/logs tells why it ends.';
    }

    /** A worker that lives and gets nowhere: it waits in the system for something that does not come. */
    private static function workers(): ?string
    {
        $silent = app(WorkerLock::class)->silent(self::SILENT);

        return $silent === [] ? null : sprintf('%s not answered for a minute: process %s. What it holds waits; end it, and another takes that up.', count($silent) === 1 ? 'A worker has' : 'Workers have', implode(', ', $silent));
    }

    /** How foreign files are opened: not a matter of being well, but of knowing. */
    public static function jail(): string
    {
        return Jail::isOffered() ? 'ffmpeg works in a jail: no network, no file but those it is given' : 'ffmpeg works without a jail: bubblewrap is missing, or the system does not let it build one; memory, time and files are bounded all the same';
    }

    private static function ffi(): ?string
    {
        if (!class_exists(\FFI::class)) {
            return 'The FFI extension is not loaded.';
        }
        $memory = \FFI::cdef()->new('uint16_t[2]');

        return $memory !== null && \FFI::sizeof($memory) === 4 ? null : 'Flat memory does not hold what is put into it.';
    }

    private static function jit(): ?string
    {
        $status = function_exists('opcache_get_status') ? opcache_get_status(false) : false;

        return is_array($status) && ($status['jit']['on'] ?? false) ? null : 'The just-in-time compiler is off: pictures take several times as long. Start PHP as ./cossel does.';
    }
}
