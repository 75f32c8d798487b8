<?php

declare(strict_types=1);

namespace Tests\App;

use App\Cuts\Cuts;
use App\Deliveries\DiskSpace;
use App\Deliveries\FileName;
use App\Deliveries\Format;
use App\Footage\StorageFull;
use App\Models\Delivery;
use App\Models\DeliveryState;
use App\Models\Shot;
use Cossel\Core\Cut\Cut;
use Cossel\Core\Cut\Event;
use Cossel\Core\Cut\Rate;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Illuminate\Testing\TestResponse;

/** Many shots delivered at once: named, checked for room, with their sums. */
final class DeliverManyTest extends AppTestCase
{
    private Shot $one;
    private Shot $other;

    protected function setUp(): void
    {
        parent::setUp();
        $clip = fn(string $name): Shot => $this->shot($this->film($name, ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p'], '64x48', 20));
        [$this->one, $this->other] = [$clip('gh010.mkv'), $clip('gh020.mkv')];
    }

    /** @param array<string, mixed> $changes */
    private function order(array $changes = []): TestResponse
    {
        return $this->postJson("/api/jobs/{$this->one->job_id}/deliveries", ['shots' => [$this->one->id, $this->other->id], 'format' => 'ffv1', 'handles' => true, 'name' => '{job}_{shot}_v{version}_{first}', 'slip' => 'slip-one', ...$changes]);
    }

    public function test_all_are_rendered_under_their_names_and_their_sums_are_right(): void
    {
        $this->order()->assertOk()->assertJsonCount(2);
        $files = Delivery::orderBy('id')->get()->map(static fn(Delivery $d): string => basename((string) $d->file))->all();
        self::assertSame(['test_gh010_v1_000000.mkv', 'test_gh020_v1_000000.mkv'], $files);
        $sums = (string) $this->get("/api/jobs/{$this->one->job_id}/deliveries.sha256")->assertOk()->getContent();
        foreach (Delivery::all() as $delivery) {
            $path = \Illuminate\Support\Facades\Storage::disk('data')->path((string) $delivery->file);
            self::assertStringContainsString(hash_file('sha256', $path) . '  ' . basename($path) . "\n", $sums);
        }
        // Sent again after a lost answer.
        $this->order()->assertOk()->assertJsonCount(2);
        self::assertSame(2, Delivery::count());
    }

    public function test_without_handles_only_what_the_cut_shows_is_rendered(): void
    {
        app(Cuts::class)->bringIn($this->one->job, new Cut('c', Rate::parse('24/1'), [new Event(1, 'gh010', 'gh010.mkv', null, 5, 9, 0)]), 3);
        $shot = Shot::where('name', 'gh010 2')->sole();
        $this->order(['shots' => [$shot->id], 'handles' => false, 'name' => 'e{event}'])->assertOk();
        $delivery = Delivery::sole();
        self::assertSame([5, 8, 'e001'], [$delivery->from, $delivery->to, $delivery->name]);
    }

    public function test_names_that_say_nothing_are_refused(): void
    {
        $this->order(['name' => '{take}'])->assertStatus(422)->assertJsonPath('message', 'There is no {take} for a name; there are {job}, {shot}, {version}, {event}, {first}, {last}.');
        $this->order(['name' => '../x'])->assertStatus(422);
        $this->order(['name' => '   '])->assertStatus(422);
        $this->order(['shots' => []])->assertStatus(422);
        self::assertSame(0, Delivery::count());
        self::assertNull(FileName::problem('{shot} final-2.1'));
        self::assertSame('delivery', FileName::of('…', $this->one, 1, 0, 9));
    }

    public function test_room_is_asked_for_before_anything_begins(): void
    {
        $info = $this->one->readyFootage()->info();
        self::assertGreaterThan(DiskSpace::needed($info, Format::Vp9, 20), DiskSpace::needed($info, Format::Ffv1, 20));
        self::assertSame(2 * DiskSpace::needed($info, Format::Ffv1, 20), DiskSpace::needed($info, Format::Ffv1, 40));
        DiskSpace::check(1000, 'wait');
        $this->expectException(StorageFull::class);
        $this->expectExceptionMessageMatches('/^This needs about 1000000000\.0 GB of room, and [\d.]+ GB are free/');
        DiskSpace::check(10 ** 18, 'wait');
    }

    public function test_what_waits_is_put_in_another_order_paused_and_gone_on_with(): void
    {
        config(['queue.default' => 'work', 'cossel.frames_a_part' => 8]);
        $this->one->update(['position' => 9]);
        $this->order()->assertOk();
        [$second, $first] = Delivery::orderBy('shot_id')->get()->all();
        $lined = static fn(): array => DB::table('queue_jobs')->orderBy('turn')->pluck('about')->all();
        $of = static fn(Delivery $d): array => $d->parts->map(static fn($part): string => "part {$part->id}")->all();
        // In the order of the job, one after the other.
        self::assertSame([...$of($first), ...$of($second)], $lined());
        $listed = fn(): array => array_column($this->getJson('/api/deliveries')->assertOk()->json(), 'id');
        $this->putJson('/api/deliveries/order', ['deliveries' => [$second->id, $first->id]])->assertNoContent();
        self::assertSame([$second->id, $first->id], $listed());
        self::assertSame([...$of($second), ...$of($first)], $lined());
        $this->putJson('/api/deliveries/order', ['deliveries' => ['x']])->assertStatus(422);
        $this->postJson("/api/deliveries/{$first->id}/pause")->assertOk()->assertJsonPath('state', 'paused');
        Artisan::call('queue:work', ['--queue' => 'deliveries', '--stop-when-empty' => true, '--quiet' => true]);
        self::assertSame([DeliveryState::Paused, DeliveryState::Done], [$first->refresh()->state, $second->refresh()->state]);
        self::assertSame([$second->id, $first->id], $listed());
        $this->postJson("/api/deliveries/{$first->id}/retry")->assertOk();
        Artisan::call('queue:work', ['--queue' => 'deliveries', '--stop-when-empty' => true, '--quiet' => true]);
        self::assertSame(DeliveryState::Done, $first->refresh()->state);
        $this->postJson("/api/deliveries/{$first->id}/pause")->assertOk()->assertJsonPath('state', 'done');
    }
}
