<?php

declare(strict_types=1);

namespace Tests\App;

use App\Models\Footage;
use App\Models\Job;
use App\Models\Shot;
use App\Models\ShotState;
use App\Models\Upload;
use App\Work\ReadFootage;
use Illuminate\Foundation\Application;
use Illuminate\Foundation\Testing\RefreshDatabase;
use Illuminate\Foundation\Testing\TestCase;
use Illuminate\Support\Facades\Storage;
use Symfony\Component\Process\Process;

/** An application of its own for each test: data and caches in a folder that goes away. */
abstract class AppTestCase extends TestCase
{
    use RefreshDatabase;

    protected string $folder;
    /** @var array<string, array<string, mixed>> what the demo's files were found to be, once: reading one takes a second */
    private static array $read = [];

    public function createApplication(): Application
    {
        $this->folder = sys_get_temp_dir() . '/cossel-test-' . bin2hex(random_bytes(6));
        mkdir("{$this->folder}/data", recursive: true);
        $_ENV['COSSEL_DATA'] = $_SERVER['COSSEL_DATA'] = "{$this->folder}/data";
        $_ENV['COSSEL_CACHE'] = $_SERVER['COSSEL_CACHE'] = "{$this->folder}/cache";
        putenv("COSSEL_DATA={$this->folder}/data");
        putenv("COSSEL_CACHE={$this->folder}/cache");
        $app = require dirname(__DIR__, 2) . '/bootstrap/app.php';
        $app->make(\Illuminate\Contracts\Console\Kernel::class)->bootstrap();

        return $app;
    }

    protected function tearDown(): void
    {
        parent::tearDown();
        (new \Illuminate\Filesystem\Filesystem())->deleteDirectory($this->folder);
    }

    /**
     * Makes a test film of moving noise and a clock-like pattern, so that every frame differs from every other.
     *
     * @param list<string> $options for the output
     */
    protected function film(string $name, array $options, string $size = '96x64', int $frames = 30, string $rate = '24', ?string $filter = null): string
    {
        $file = "{$this->folder}/{$name}";
        $source = "testsrc2=size={$size}:rate={$rate}" . ($filter === null ? '' : ",{$filter}");
        $this->ffmpeg(['-f', 'lavfi', '-i', $source, '-frames:v', (string) $frames, ...$options, '-y', $file]);

        return $file;
    }

    /** @param list<string> $arguments */
    protected function ffmpeg(array $arguments): string
    {
        $process = new Process(['ffmpeg', '-v', 'error', ...$arguments], timeout: 120);
        $process->mustRun();

        return $process->getOutput();
    }

    protected function shot(string $file, ?array $span = null): Shot
    {
        $job = Job::firstOrCreate(['name' => 'Test']);
        $shot = Shot::create(['job_id' => $job->id, 'name' => pathinfo($file, PATHINFO_FILENAME), 'state' => ShotState::Reading]);
        $upload = Upload::create(['job_id' => $job->id, 'name' => basename($file), 'size' => filesize($file), 'shot_id' => $shot->id, 'span' => $span]);
        copy($file, $upload->path());
        $sha256 = str_starts_with($file, base_path('demo/')) ? (string) hash_file('sha256', $file) : null;
        if (isset(self::$read[$sha256])) {
            Storage::disk('data')->makeDirectory('footage');
            copy($file, Storage::disk('data')->path("footage/{$sha256}"));
            Footage::updateOrCreate(['sha256' => $sha256], ['path' => "footage/{$sha256}", 'name' => basename($file), 'info' => self::$read[$sha256]]);
        }
        ReadFootage::dispatchSync($shot->id);
        $shot->refresh();
        if ($sha256 !== null && $shot->footage !== null) {
            self::$read[$sha256] = $shot->footage->info()->toArray();
        }

        return $shot;
    }

    /** @return array<string, mixed> */
    protected function recipe(Shot $shot): array
    {
        return $this->getJson("/api/shots/{$shot->id}/recipe")->assertOk()->json('recipe');
    }
}
