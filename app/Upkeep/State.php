<?php

declare(strict_types=1);

namespace App\Upkeep;

use App\Health;
use App\Server\Supervised;
use App\Work\Queues;
use Illuminate\Filesystem\Filesystem;
use Illuminate\Foundation\Application;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;
use Symfony\Component\Process\Process;

/** How the system stands: what takes room, what waits, what runs. */
final class State
{
    /** Folders of the data. */
    private const KINDS = ['footage' => 'Footage', 'deliveries' => 'Deliveries', 'uploads' => 'Files on their way in', 'bundles' => 'Bundles on their way out', 'tracks' => 'Tracks', 'assets' => 'Look-up tables', 'backups' => 'Databases set aside'];
    private const QUEUES = [Queues::BENCH => 'Following and reading', Queues::DELIVERIES => 'Deliveries', Queues::AHEAD => 'Ahead, for nobody'];

    public function __construct(private readonly Backup $backup) {}

    /** @return array<string, mixed> */
    public function told(): array
    {
        return [
            'disk' => $this->disk(),
            'free' => (int) @disk_free_space(Storage::disk('data')->path('')),
            'queues' => self::queues(),
            'programs' => Supervised::programs(),
            'troubles' => [...array_values(array_filter(Health::report())), ...self::damaged($this->backup->last()['damaged'] ?? [])],
            'jail' => Health::jail(),
            'versions' => self::versions(),
            'backup' => $this->backup->last(),
        ];
    }

    /** Databases set aside, oldest first, beyond the last few; and the empty pages of the database itself. */
    public static function makeRoom(Filesystem $files): void
    {
        $kept = glob(Storage::disk('data')->path('backups/*.sqlite')) ?: [];
        usort($kept, static fn(string $a, string $b): int => (int) filemtime($a) <=> (int) filemtime($b));
        $files->delete(array_slice($kept, 0, max(0, count($kept) - (int) config('limits.kept.set_aside'))));
        if (DB::transactionLevel() === 0) {
            DB::statement('VACUUM');
        }
    }

    /**
     * @param list<string> $files
     *
     * @return list<string>
     */
    private static function damaged(array $files): array
    {
        return $files === [] ? [] : ['The last backup found damaged files in the data folder: ' . implode(', ', array_slice($files, 0, 5)) . (count($files) > 5 ? ' and more' : '') . '. ./cossel restore puts back what a backup holds whole.'];
    }

    /** @return list<array{name: string, bytes: int, spare: bool}> */
    private function disk(): array
    {
        $data = rtrim(Storage::disk('data')->path(''), '/');
        $database = array_sum(array_map(static fn(string $file): int => (int) filesize($file), glob("{$data}/cossel.sqlite*") ?: []));
        $rows = [['name' => 'Jobs, recipes, history', 'bytes' => $database, 'spare' => false]];
        foreach (self::KINDS as $folder => $name) {
            $rows[] = ['name' => $name, 'bytes' => self::bytes("{$data}/{$folder}"), 'spare' => false];
        }
        foreach (['frames' => 'Decoded frames', 'pictures' => 'Finished pictures'] as $folder => $name) {
            $rows[] = ['name' => $name, 'bytes' => self::bytes(config('cossel.cache.path') . "/{$folder}"), 'spare' => true];
        }

        return $rows;
    }

    private static function bytes(string $folder): int
    {
        if (!is_dir($folder)) {
            return 0;
        }
        $process = new Process(['find', $folder, '-type', 'f', '-printf', '%s\n'], timeout: 20);
        $process->run();

        return (int) array_sum(array_map(intval(...), explode("\n", $process->getOutput())));
    }

    /** @return list<array{name: string, waiting: int, doing: int}> */
    private static function queues(): array
    {
        $rows = DB::table('queue_jobs')->selectRaw('queue, count(*) as all_of_it, count(worker) as doing')->groupBy('queue')->get()->keyBy('queue');

        return array_map(static fn(string $queue, string $name): array => [
            'name' => $name,
            'waiting' => (int) ($rows[$queue]->all_of_it ?? 0) - (int) ($rows[$queue]->doing ?? 0),
            'doing' => (int) ($rows[$queue]->doing ?? 0),
        ], array_keys(self::QUEUES), self::QUEUES);
    }

    /** @return array<string, string> */
    private static function versions(): array
    {
        $ffmpeg = new Process(['ffmpeg', '-version'], timeout: 5);
        $ffmpeg->run();

        return [
            'Computation' => substr((string) config('cossel.engine'), 0, 12),
            'Database' => (string) DB::table('migrations')->max('migration'),
            'PHP' => PHP_VERSION,
            'Laravel' => Application::VERSION,
            'SQLite' => (string) DB::scalar('select sqlite_version()'),
            'ffmpeg' => preg_match('/version (\S+)/', $ffmpeg->getOutput(), $m) === 1 ? $m[1] : 'none',
        ];
    }
}
