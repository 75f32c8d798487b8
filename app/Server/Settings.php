<?php

declare(strict_types=1);

namespace App\Server;

use App\Http\Middleware\InTurn;
use Illuminate\Filesystem\Filesystem;

/** Writes the settings of the web server, of PHP's processes and of what supervises them, from the forms in server/. */
final class Settings
{
    private const FORMS = ['nginx.conf', 'fpm.conf', 'supervisord.conf'];
    /**
     * What every program is run with: one that keeps ending is started again and again, ever more slowly. It is ended at once
     * when all is stopped, because nothing is lost by that.
     */
    private const ALWAYS = "autorestart = true\nstartsecs = 1\nstartretries = 1000000\nstopwaitsecs = 3\nkillasgroup = true\nredirect_stderr = true\nstdout_logfile_maxbytes = 5MB\nstdout_logfile_backups = 2";

    public function __construct(private readonly Filesystem $files) {}

    /** @param string $run folder for what lives as long as the server: settings, sockets, numbers of processes */
    public function write(string $run, int $port, int $workers, int $pictures, int $light): void
    {
        $isRoot = posix_geteuid() === 0;
        $logs = storage_path('logs');
        $values = [
            'here' => base_path(),
            'run' => $run,
            'logs' => $logs,
            'data' => rtrim((string) config('filesystems.disks.data.root'), '/'),
            'port' => $port,
            'pictures' => InTurn::pattern(),
            'workers' => $workers,
            'turns' => $pictures,
            'light' => $light,
            'most_file' => self::mebibytes(config('limits.bodies.file')),
            'most_any' => self::mebibytes(config('limits.bodies.any')),
            'light_memory' => config('limits.light.memory'),
            'picture_memory' => config('limits.picture.memory'),
            'picture_seconds' => config('limits.picture.cpu_seconds'),
            'fpm' => 'php-fpm' . PHP_MAJOR_VERSION . '.' . PHP_MINOR_VERSION,
            'user' => $isRoot ? "user root;\n" : '',
            'supervisor_user' => $isRoot ? 'user = root' : '',
            'fpm_user' => $isRoot ? '--allow-to-run-as-root' : '',
            'always' => self::ALWAYS . "\nstdout_logfile = {$logs}/%(program_name)s-{$port}.log",
        ];
        foreach (self::FORMS as $form) {
            $text = (string) file_get_contents(base_path("server/{$form}"));
            $this->files->put("{$run}/{$form}", preg_replace_callback('/\{\{(\w+)\}\}/', static fn(array $m): string => (string) $values[$m[1]], $text));
        }
    }

    private static function mebibytes(int $bytes): string
    {
        return intdiv($bytes, 1024 ** 2) . 'M';
    }
}
