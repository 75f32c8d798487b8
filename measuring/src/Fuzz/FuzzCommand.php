<?php

declare(strict_types=1);

namespace Cossel\Measuring\Fuzz;

use App\Bundles\BundleReader;
use App\Footage\FrameCache;
use App\Footage\ImageSequence;
use App\Footage\Probe;
use Cossel\Measuring\Report;
use Illuminate\Console\Command;
use Illuminate\Contracts\Http\Kernel;
use Illuminate\Filesystem\Filesystem;

final class FuzzCommand extends Command
{
    /** How many cases there are of each sort in a whole round. */
    private const CASES = ['recipes' => 10_000, 'texts' => 2_000, 'media' => 500, 'bundles' => 500, 'requests' => 5_000];
    /** What no case may take. */
    private const MOST_BYTES = 1024 ** 3;
    /** Nor ffmpeg, which holds several pictures of the largest size at once. */
    private const MOST_OF_FFMPEG = 4 * 1024 ** 3;

    protected $signature = 'cossel:fuzz {seconds? : how long; a whole round when left out} {--seed=1 : of the first case} {--only= : recipes, texts, media, bundles or requests} {--write : put the figures into docs/reliability.md}';

    protected $description = 'Tries hostile input of every sort and tells what it did';

    public function handle(Kernel $kernel, Probe $probe, ImageSequence $sequence, FrameCache $frames, Filesystem $files, Playground $playground, BundleReader $bundles, Rows $rows, Texts $texts): int
    {
        $playground->check();
        $folder = config('filesystems.disks.data.root') . '/media';
        $files->deleteDirectory($folder);
        $files->makeDirectory($folder, recursive: true);
        $sorts = [
            new RecipeFuzz($playground->recipes()),
            new TextFuzz(),
            new MediaFuzz($probe, $sequence, $frames, $files, $folder),
            new BundleFuzz($bundles, $playground->restore(...), $texts),
            new RequestFuzz($kernel, $playground->restore(...), $rows, $texts),
        ];
        $rows = [];
        $failed = 0;
        foreach ($sorts as $sort) {
            if ($this->option('only') === null || $this->option('only') === $sort->name()) {
                $row = $this->round($sort);
                $rows[] = $row;
                $failed += $row[2];
            }
        }
        $files->deleteDirectory($folder);
        $this->table(['input', 'cases', 'went wrong', 'longest', 'most memory', 'of ffmpeg'], $rows);
        if ($this->option('write')) {
            Report::write('fuzz', ['Input', 'Cases', 'Went wrong', 'Longest', 'Most memory', 'Of ffmpeg'], $rows);
        }

        return $failed === 0 ? 0 : 1;
    }

    /** @return array{string, int, int, string, string, string} */
    private function round(Fuzz $sort): array
    {
        $until = $this->argument('seconds') === null ? INF : microtime(true) + (float) $this->argument('seconds') / count(self::CASES);
        $most = $this->argument('seconds') === null ? self::CASES[$sort->name()] : PHP_INT_MAX;
        $longest = 0.0;
        $memory = $wrong = $cases = $ffmpeg = 0;
        for (; $cases < $most && microtime(true) < $until; ++$cases) {
            $seed = (int) $this->option('seed') + $cases;
            $began = microtime(true);
            memory_reset_peak_usage();
            $reason = self::outcome($sort, new Dice($seed));
            $took = microtime(true) - $began;
            $used = memory_get_peak_usage();
            $theirs = 1024 * (getrusage(1)['ru_maxrss'] ?? 0);
            $reason ??= match (true) {
                $took > $sort->seconds() => sprintf('took %.0f s', $took),
                $used > self::MOST_BYTES => sprintf('took %d MB', $used >> 20),
                $theirs > self::MOST_OF_FFMPEG && $theirs > $ffmpeg => sprintf('ffmpeg took %d MB', $theirs >> 20),
                default => null,
            };
            $ffmpeg = max($ffmpeg, $theirs);
            if ($reason !== null) {
                ++$wrong;
                $this->components->error(rtrim("{$sort->name()}, seed {$seed}: {$reason} {$sort->about()}"));
            }
            $longest = max($longest, $took);
            $memory = max($memory, $used);
        }

        return [$sort->name(), $cases, $wrong, sprintf('%.1f s', $longest), sprintf('%d MB', $memory >> 20), $sort->name() === 'media' ? sprintf('%d MB', $ffmpeg >> 20) : ''];
    }

    /** What went wrong with a case; whatever PHP warns of counts. */
    public static function outcome(Fuzz $sort, Dice $dice): ?string
    {
        set_error_handler(static function (int $level, string $message, string $file, int $line): bool {
            if ((error_reporting() & $level) === 0) {
                return false;
            }

            throw new \ErrorException($message, 0, $level, $file, $line);
        });
        try {
            return $sort->try($dice);
        } catch (\Throwable $e) {
            return sprintf('%s: %s at %s:%d', $e::class, mb_strimwidth($e->getMessage(), 0, 300, '…'), basename($e->getFile()), $e->getLine());
        } finally {
            restore_error_handler();
        }
    }
}
