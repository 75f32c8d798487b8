<?php

declare(strict_types=1);

namespace Tests\App;

use App\Models\Failure;
use App\Models\Job;
use App\Models\Shot;
use App\Upkeep\Upgrade;
use App\Work\Background;
use App\Work\Piece;
use App\Work\Queues;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Symfony\Component\Process\Process;

/** Another program holds the database: people read so and lose nothing, work waits uncounted. Memory runs out: work is given up in the end. */
final class LockedTest extends AppTestCase
{
    use FirstRelease;

    private ?Process $holder = null;

    protected function prepare(): void
    {
        config(['queue.default' => 'work']);
        self::assertNull($this->app->make(Upgrade::class)->run());
        DB::table('queue_jobs')->delete();
        DB::statement('PRAGMA busy_timeout = 50');
    }

    protected function tearDown(): void
    {
        $this->holder?->stop(0);
        parent::tearDown();
    }

    public function test_people_read_that_it_is_busy_and_nothing_is_changed(): void
    {
        $shot = Shot::where('revision', '>', 1)->firstOrFail();
        $recipe = $this->getJson("/api/shots/{$shot->id}/recipe")->assertOk()->json('recipe');
        $this->hold(20);
        foreach ([
            ['PUT', "/api/shots/{$shot->id}/recipe", ['base' => $shot->revision, 'label' => 'Edit', 'recipe' => [...$recipe, 'areas' => []]]],
            ['POST', "/api/shots/{$shot->id}/undo", ['base' => $shot->revision]],
            ['POST', "/api/shots/{$shot->id}/deliveries", ['format' => 'ffv1', 'from' => $shot->from, 'to' => $shot->to, 'slip' => 'a1b2c3d4']],
            ['POST', "/api/shots/{$shot->id}/follows", ['area' => $recipe['areas'][0]['id'], 'start' => $shot->from, 'from' => $shot->from, 'to' => $shot->to]],
            ['PUT', "/api/jobs/{$shot->job_id}/order", ['shots' => Job::firstOrFail()->shots()->pluck('id')->reverse()->values()->all()]],
            ['POST', '/api/jobs', ['name' => 'Another']],
        ] as [$method, $path, $body]) {
            $answer = $this->json($method, $path, $body);
            self::assertSame([503, 'The database is busy with something else. Nothing of this was saved; try it again.'], [$answer->status(), $answer->json('message')], "{$method} {$path}: {$answer->content()}");
        }
        self::assertSame($shot->revision, $shot->refresh()->revision);
    }

    public function test_work_waits_without_counting_it_as_a_failure(): void
    {
        LockedWork::$meets = fn() => $this->hold(1.0);
        LockedWork::$times = 0;
        dispatch(new LockedWork());
        for ($try = 1; $try <= 4; ++$try) {
            Artisan::call('queue:work', ['connection' => 'work', '--once' => true, '--queue' => Queues::BENCH, '--sleep' => 0]);
            self::assertSame($try, LockedWork::$times);
            self::assertSame([1, 0], [DB::table('queue_jobs')->count(), Failure::count()], 'it is still there, and nothing was given up');
            $this->travel(3)->seconds();
        }
        LockedWork::$meets = null;
        Artisan::call('queue:work', ['connection' => 'work', '--once' => true, '--queue' => Queues::BENCH, '--sleep' => 0]);
        self::assertSame('Done', Job::firstOrFail()->name);
        self::assertSame(0, DB::table('queue_jobs')->count());
    }

    public function test_work_that_takes_all_the_memory_there_is_is_given_up_after_three_tries(): void
    {
        DB::statement('PRAGMA busy_timeout = 5000');
        dispatch(new HungryWork());
        for ($try = 1; $try <= 3; ++$try) {
            DB::table('queue_jobs')->update(['available_at' => 0]);
            $worker = new Process(['php', '-d', 'memory_limit=96M', base_path('artisan'), 'queue:work', 'work', '--once', '--queue=' . Queues::BENCH, '--sleep=0'], env: ['COSSEL_DATA' => "{$this->folder}/data", 'COSSEL_CACHE' => "{$this->folder}/cache", 'DB_DATABASE' => "{$this->folder}/data/cossel.sqlite", 'QUEUE_CONNECTION' => 'work', 'CACHE_STORE' => 'file'], timeout: 60);
            $worker->run();
            self::assertSame($try < 3 ? 1 : 0, DB::table('queue_jobs')->count(), $worker->getOutput());
            self::assertSame(0, DB::table('queue_jobs')->whereNotNull('reserved_at')->count(), 'it is put back');
        }
        self::assertSame('This takes more memory than it may have.', Failure::sole()->reason);
        self::assertNotSame('Half', Job::firstOrFail()->name);
    }

    /** Another process holds the write lock for so many seconds. */
    private function hold(float $seconds): void
    {
        $this->holder = new Process(['php', '-r', '$db = new PDO("sqlite:" . $argv[1]); $db->exec("PRAGMA busy_timeout = 5000"); $db->exec("BEGIN IMMEDIATE"); echo "held"; usleep((int) (1e6 * $argv[2]));', "{$this->folder}/data/cossel.sqlite", (string) $seconds]);
        $this->holder->start();
        $this->holder->waitUntil(static fn(string $type, string $said): bool => str_contains($said, 'held'));
    }
}

/** Work that begins a transaction while another holds the database. */
final class LockedWork implements Piece
{
    use Background;

    public static int $times = 0;
    public static ?\Closure $meets = null;

    public function __construct()
    {
        $this->onQueue(Queues::BENCH);
    }

    public function about(): string
    {
        return 'job 1';
    }

    public function what(): string
    {
        return 'Trying a lock';
    }

    public function handle(): void
    {
        ++self::$times;
        self::$meets === null || (self::$meets)();
        DB::transaction(static fn() => Job::query()->update(['name' => 'Done']));
    }
}
