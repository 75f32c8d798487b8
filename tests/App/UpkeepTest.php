<?php

declare(strict_types=1);

namespace Tests\App;

use App\Deliveries\Format;
use App\Deliveries\Orders;
use App\Models\DeliveryState;
use App\Models\Failure;
use App\Models\Shot;
use App\Models\ShotState;
use App\Work\Queues;
use App\Work\ReadFootage;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;

/** The page of the system: what takes room, what failed, and what can be done about it. */
final class UpkeepTest extends AppTestCase
{
    public function test_it_tells_what_takes_room_what_waits_and_what_runs(): void
    {
        $shot = $this->shot($this->film('a.mkv', ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p'], frames: 12));
        config(['queue.default' => 'work']);
        $this->app->make(Orders::class)->place($shot, Format::Ffv1, 0, 11);
        $told = $this->getJson('/api/upkeep')->assertOk()->json();
        $bytes = array_column($told['disk'], 'bytes', 'name');
        self::assertSame(filesize("{$this->folder}/a.mkv"), $bytes['Footage']);
        self::assertSame(0, $bytes['Deliveries']);
        self::assertGreaterThan(12 * 96 * 64 * 6 - 1, $bytes['Decoded frames']);
        self::assertSame(['name' => 'Deliveries', 'waiting' => 1, 'doing' => 0], $told['queues'][1]);
        self::assertNull($told['backup']);
        self::assertSame([], $told['failures']);
        self::assertSame(PHP_VERSION, $told['versions']['PHP']);
    }

    public function test_making_room_throws_away_what_can_be_made_again_and_nothing_else(): void
    {
        $shot = $this->shot($this->film('a.mkv', ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p'], frames: 12));
        $ask = ['frame' => 3, 'view' => 'result', 'height' => 64];
        $picture = $this->postJson("/api/shots/{$shot->id}/picture", $ask)->assertOk()->getContent();
        $told = $this->postJson('/api/upkeep/room')->assertOk()->json();
        $bytes = array_column($told['disk'], 'bytes', 'name');
        self::assertSame([0, 0], [$bytes['Decoded frames'], $bytes['Finished pictures']]);
        self::assertSame($picture, $this->postJson("/api/shots/{$shot->id}/picture", $ask)->assertOk()->getContent());
    }

    public function test_what_is_given_up_is_kept_with_its_reason_until_it_went_well(): void
    {
        $shot = $this->shot($this->film('a.mkv', ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p'], frames: 24));
        config(['queue.default' => 'work']);
        $delivery = $this->app->make(Orders::class)->place($shot, Format::Ffv1, 0, 11);
        rename("{$this->folder}/data/footage", "{$this->folder}/data/away");
        $this->app->make(\App\Footage\FrameCache::class)->empty();
        $this->work(3);
        self::assertSame(DeliveryState::Failed, $delivery->refresh()->state, (string) $delivery->error);
        $failure = $this->getJson('/api/upkeep')->json('failures.0');
        self::assertSame(['Rendering a part of a delivery', $shot->id, 'The footage of a.mkv is no longer where it was. Bring it in again to go on.'], [$failure['what'], $failure['shot']['id'], $failure['reason']]);
        self::assertSame('Frames 0 to 11: The footage of a.mkv is no longer where it was. Bring it in again to go on.', $delivery->error);
        rename("{$this->folder}/data/away", "{$this->folder}/data/footage");
        $this->postJson("/api/upkeep/failures/{$failure['id']}/retry")->assertNoContent();
        self::assertSame([0, DeliveryState::Rendering], [Failure::count(), $delivery->refresh()->state]);
        $this->work(2);
        self::assertSame(DeliveryState::Done, $delivery->refresh()->state, (string) $delivery->error);
        self::assertSame(0, Failure::count());
    }

    public function test_a_failure_can_be_taken_away(): void
    {
        $shot = Shot::create(['job_id' => \App\Models\Job::create(['name' => 'J'])->id, 'name' => 's', 'state' => ShotState::Failed]);
        $failure = Failure::create(['about' => "shot {$shot->id}", 'what' => 'Reading footage', 'reason' => 'No.', 'work' => serialize(new ReadFootage($shot->id))]);
        $this->deleteJson("/api/upkeep/failures/{$failure->id}")->assertNoContent();
        self::assertSame(0, Failure::count());
    }

    private function work(int $times): void
    {
        for ($n = 0; $n < $times; ++$n) {
            DB::table('queue_jobs')->update(['available_at' => 0]);
            Artisan::call('queue:work', ['--once' => true, '--queue' => Queues::DELIVERIES, '--quiet' => true]);
        }
    }
}
