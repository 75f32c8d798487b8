<?php

declare(strict_types=1);

namespace Tests\App;

use App\Deliveries\Format;
use App\Deliveries\Orders;
use App\Models\DeliveryState;
use App\Models\Job;
use App\Models\Shot;
use App\Models\ShotState;
use App\Models\Upload;
use App\Upkeep\Waiting;
use App\Work\Queues;
use App\Work\ReadFootage;
use App\Work\RenderPart;
use App\Work\WorkerLock;
use App\Work\WorkQueue;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;
use Symfony\Component\Process\Process;

/** The queue: who comes first, who holds what, and that nothing waits for ever whatever dies. */
final class WorkTest extends AppTestCase
{
    protected function setUp(): void
    {
        parent::setUp();
        config(['queue.default' => 'work']);
    }

    public function test_work_is_held_as_long_as_its_worker_lives_and_not_a_moment_longer(): void
    {
        ReadFootage::dispatch(1);
        ReadFootage::dispatch(2);
        $other = $this->otherWorker();
        self::assertSame([1, null], $this->held($other->name));
        // Whatever the clock says: neither a day later nor a day earlier is it let go, or taken twice.
        foreach ([1, -1] as $days) {
            Carbon::setTestNow(Carbon::now()->addDays($days));
            self::assertSame(0, $this->queue()->letGo());
        }
        $other->process->signal(SIGKILL);
        $other->process->wait();
        self::assertSame(1, $this->queue()->letGo());
        self::assertSame(0, DB::table('queue_jobs')->whereNotNull('reserved_at')->count());
        $this->app->make(Waiting::class)->letGo();
        self::assertSame([], glob("{$this->folder}/data/workers/*") ?: []);
    }

    public function test_a_worker_that_could_not_put_its_work_back_takes_it_up_itself(): void
    {
        ReadFootage::dispatch(1);
        ReadFootage::dispatch(2);
        $first = $this->queue()->pop(Queues::BENCH);
        self::assertSame($first?->getJobId(), $this->queue()->pop(Queues::BENCH)?->getJobId());
    }

    public function test_a_worker_that_gets_nowhere_is_told_of(): void
    {
        posix_mkfifo($pipe = "{$this->folder}/pipe", 0600);
        $code = sprintf('require %s; $l = new \\%s(%s); echo $l->name(), "\n"; ', var_export(base_path('vendor/autoload.php'), true), WorkerLock::class, var_export("{$this->folder}/data/workers", true));
        // One waits for whoever would write to a pipe, one computes, one waits for a program of its own.
        $started = [];
        foreach (['file_get_contents(' . var_export($pipe, true) . ');', 'for (;;) { sqrt(2); }', '(new \Symfony\Component\Process\Process(["sleep", "60"]))->run();'] as $does) {
            $started[] = $process = new Process([PHP_BINARY, '-r', $code . $does]);
            $process->start();
            $process->waitUntil(static fn(string $type, string $said): bool => str_ends_with($said, "\n"));
        }
        $lock = $this->app->make(WorkerLock::class);
        $waiting = $this->app->make(Waiting::class);
        foreach (glob("{$this->folder}/data/workers/*") ?: [] as $file) {
            touch($file, time() - 90);
        }
        self::assertSame([], $lock->silent(60), 'nobody was asked yet');
        $waiting->ask();
        usleep(300_000);
        self::assertSame([$started[0]->getPid()], $lock->silent(60));
        self::assertSame("A worker has not answered for a minute: process {$started[0]->getPid()}. What it holds waits; end it, and another takes that up.", $this->getJson('/up')->json('checks.workers'));
        $started[0]->signal(SIGKILL);
        $started[0]->wait();
        self::assertSame('well', $this->getJson('/up')->json('checks.workers'));
        array_map(static fn(Process $process) => $process->stop(0), $started);
    }

    public function test_what_was_put_off_is_not_put_off_by_a_clock_that_was_set_back(): void
    {
        ReadFootage::dispatch(1)->delay(5);
        self::assertNull($this->queue()->pop(Queues::BENCH));
        Carbon::setTestNow(Carbon::now()->subHour());
        self::assertNotNull($this->queue()->pop(Queues::BENCH));
    }

    public function test_parts_of_several_deliveries_are_rendered_in_turns(): void
    {
        $shot = $this->readyShot();
        $orders = $this->app->make(Orders::class);
        $first = $orders->place($shot, Format::Ffv1, 0, 59);
        $this->done(2);
        $second = $orders->place($shot, Format::Ffv1, 0, 35);
        $turns = array_map(fn(): string => $this->next(), range(1, 6));
        self::assertSame(['first 2', 'second 0', 'first 3', 'second 1', 'first 4', 'second 2'], array_map(static fn(string $id): string => ($first->parts->contains('id', (int) $id) ? 'first ' : 'second ') . ($first->parts->merge($second->parts)->firstWhere('id', (int) $id)->index ?? ''), $turns));
    }

    public function test_a_part_that_is_given_up_leaves_the_others_and_is_made_again_when_asked_for(): void
    {
        $shot = $this->readyShot();
        $orders = $this->app->make(Orders::class);
        $delivery = $orders->place($shot, Format::Ffv1, 0, 35);
        [$a, $b, $c] = $delivery->parts->all();
        (new RenderPart($b->id))->failed(null);
        self::assertSame(DeliveryState::Rendering, $delivery->refresh()->state);
        $a->update(['complete' => true]);
        $c->update(['error' => 'Frames 24 to 35: no.']);
        (new RenderPart($b->id))->failed(null);
        self::assertSame(DeliveryState::Failed, $delivery->refresh()->state);
        self::assertSame("Frames 12 to 23: The worker broke off. Try it again.\nFrames 24 to 35: no.", $delivery->error);
        DB::table('queue_jobs')->delete();
        @mkdir($delivery->workFolder(), recursive: true);
        touch(RenderPart::file($a));
        $orders->retry($delivery);
        self::assertSame(["part {$b->id}", "part {$c->id}"], DB::table('queue_jobs')->orderBy('turn')->pluck('about')->all());
        self::assertSame([null, null, null], $delivery->parts()->pluck('error')->all());
    }

    public function test_what_waits_without_work_is_lined_up_once(): void
    {
        $shot = $this->readyShot();
        $reading = Shot::create(['job_id' => $shot->job_id, 'name' => 'b', 'state' => ShotState::Reading]);
        $follow = $shot->follows()->create(['area' => 'a', 'state' => 'waiting', 'start' => 0, 'from' => 0, 'to' => 9]);
        $delivery = $this->app->make(Orders::class)->place($shot, Format::Ffv1, 0, 35);
        $parts = $delivery->parts->map(static fn($part): string => "part {$part->id}")->all();
        DB::table('queue_jobs')->where('about', '!=', $parts[1])->delete();
        foreach ([1, 2] as $time) {
            $this->app->make(Waiting::class)->lineUp();
            $about = DB::table('queue_jobs')->pluck('about')->all();
            self::assertEqualsCanonicalizing([...$parts, "shot {$reading->id}", "follow {$follow->id}"], $about);
        }
    }

    public function test_an_upload_becomes_one_shot_however_often_it_is_finished(): void
    {
        $job = Job::create(['name' => 'Test']);
        $upload = Upload::create(['job_id' => $job->id, 'name' => 'a.mkv', 'size' => 3]);
        file_put_contents($upload->path(), 'abc');
        $ids = array_map(fn(): int => $this->postJson("/api/uploads/{$upload->id}/shot", ['from' => 2])->assertSuccessful()->json('id'), [1, 2, 3]);
        self::assertSame([$ids[0], $ids[0], $ids[0]], $ids);
        self::assertSame(1, DB::table('queue_jobs')->count());
        self::assertSame([2, null], $upload->refresh()->span);
    }

    private function queue(): WorkQueue
    {
        $queue = Queue::connection('work');
        \assert($queue instanceof WorkQueue);

        return $queue;
    }

    private function next(): string
    {
        $work = $this->queue()->pop(Queues::DELIVERIES);
        self::assertNotNull($work);
        $about = $work->payload()['about'];
        $work->delete();

        return substr($about, 5);
    }

    private function done(int $parts): void
    {
        foreach (range(1, $parts) as $_) {
            $this->next();
        }
    }

    private function readyShot(): Shot
    {
        config(['queue.default' => 'sync']);
        $shot = $this->shot($this->film('a.mkv', ['-c:v', 'ffv1'], frames: 60));
        config(['queue.default' => 'work']);

        return $shot;
    }

    /** @return list<int|null> of each piece of work in order: 1 where this worker holds it */
    private function held(string $worker): array
    {
        return array_map(static fn(?string $holder): ?int => $holder === $worker ? 1 : null, DB::table('queue_jobs')->orderBy('id')->pluck('worker')->all());
    }

    /** A worker in another process, which holds the first piece of work. */
    private function otherWorker(): object
    {
        $code = sprintf('require %s; $l = new %s(%s); echo $l->name(), "\n"; sleep(60);', var_export(base_path('vendor/autoload.php'), true), '\\' . WorkerLock::class, var_export("{$this->folder}/data/workers", true));
        $process = new Process([PHP_BINARY, '-r', $code]);
        $process->start();
        $process->waitUntil(static fn(string $type, string $said): bool => str_ends_with($said, "\n"));
        $name = trim($process->getOutput());
        DB::table('queue_jobs')->orderBy('id')->limit(1)->update(['reserved_at' => time(), 'worker' => $name]);

        return (object) ['process' => $process, 'name' => $name];
    }
}
