<?php

declare(strict_types=1);

namespace Tests\App;

use App\Cuts\Brought;
use App\Cuts\CutFile;
use App\Cuts\Cuts;
use App\Models\Follow;
use App\Models\Footage;
use App\Models\Job;
use App\Models\Shot;
use App\Models\ShotState;
use App\Work\FollowArea;
use App\Work\PrepareFrames;
use Cossel\Core\Cut\Rate;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;
use Illuminate\Testing\TestResponse;

/** Cuts brought into jobs: shots with handles in order; a new version of the edit takes no treatment away. */
final class CutsTest extends AppTestCase
{
    private Job $job;

    protected function setUp(): void
    {
        parent::setUp();
        $this->job = Job::create(['name' => 'Glasshouse']);
    }

    /** A long file of 60 frames whose timecode begins at an hour. */
    private function long(string $name, int $rows = 48): void
    {
        $file = $this->film($name, ['-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-timecode', '01:00:00:00'], "64x{$rows}", 60);
        $this->artisan('cossel:import', ['files' => [$this->edl([]), $file], '--job' => 'Glasshouse']);
    }

    /**
     * @param list<array{string, string, int, int}> $events file, name, first frame and length
     */
    private function edl(array $events): string
    {
        $code = static fn(int $frame): string => sprintf('01:%02d:%02d:%02d', intdiv($frame, 24 * 60), intdiv($frame, 24) % 60, $frame % 24);
        $text = "TITLE: Glasshouse\nFCM: NON-DROP FRAME\n";
        $at = 0;
        foreach ($events as $i => [$file, $name, $in, $length]) {
            $text .= sprintf("%03d  AX       V     C        %s %s %s %s\n* FROM CLIP NAME: %s\n* SOURCE FILE: /media/%s\n", $i + 1, $code($in), $code($in + $length), $code($at), $code($at + $length), $name, $file);
            $at += $length;
        }
        $path = "{$this->folder}/cut.edl";
        file_put_contents($path, $text);

        return $path;
    }

    /**
     * @param list<array{string, string, int, int}> $events
     *
     * @return list<string> what was told
     */
    private function bring(array $events, int $handles = 4): array
    {
        $told = $this->send('cut.edl', (string) file_get_contents($this->edl($events)), ['handles' => $handles])->assertOk()->json('told');
        self::assertSame('done', $told['state'], json_encode($told, JSON_THROW_ON_ERROR));

        return $told['told'];
    }

    /** @param array<string, mixed> $how */
    private function send(string $name, string $text, array $how = []): TestResponse
    {
        $upload = $this->postJson("/api/jobs/{$this->job->id}/uploads", ['name' => $name, 'size' => strlen($text)])->assertCreated()->json('id');
        $this->call('PUT', "/api/uploads/{$upload}?offset=0", [], [], [], ['CONTENT_TYPE' => 'application/octet-stream'], $text)->assertSuccessful();

        return $this->postJson("/api/uploads/{$upload}/cut", ['rate' => '24/1', 'handles' => 4, ...$how]);
    }

    /** @return list<array{string, string, int, int}> */
    private function shots(): array
    {
        return $this->job->shots()->get()->map(static fn(Shot $shot): array => [$shot->name, $shot->state->value, $shot->from, $shot->to])->all();
    }

    /** A list may tell nothing of files: then they are found by the reel or by the name of the clip, which shots go by without its ending. */
    public function test_footage_is_found_by_reel_or_clip(): void
    {
        $this->long('reel_a.mov');
        $this->long('gh010_wide.mov', 36);
        $event = static fn(int $n, string $reel, string $clip): string => sprintf("%03d  %-8s V C 01:00:00:10 01:00:00:20 01:00:0%d:00 01:00:0%d:10\n* FROM CLIP NAME: %s\n", $n, $reel, $n, $n, $clip);
        $text = "TITLE: Glasshouse\n" . $event(1, 'R010', 'gh010_wide.mov') . $event(2, 'REEL_A', 'gh020') . $event(3, 'R030', 'gh030.mov');
        $told = $this->send('cut.edl', $text, ['handles' => 2])->assertOk()->json('told.told');
        self::assertSame(['3 shots are new.', 'gh030 asks for gh030.mov.'], $told);
        self::assertSame([['gh010_wide', 'ready', 8, 21], ['gh020', 'ready', 8, 21], ['gh030', 'missing', 0, 0]], $this->shots());
    }

    public function test_events_become_shots_with_handles_that_share_their_footage(): void
    {
        $this->long('reel_a.mov');
        self::assertSame('2 shots are new.', $this->bring([['reel_a.mov', 'gh010', 2, 10], ['reel_a.mov', 'gh020', 30, 12]])[0]);
        // No more handle than there is footage.
        self::assertSame([['gh010', 'ready', 0, 15], ['gh020', 'ready', 26, 45]], $this->shots());
        self::assertCount(1, $this->job->shots()->pluck('footage_id')->unique());
        $this->getJson("/api/jobs/{$this->job->id}")->assertJsonPath('shots.1.cut', ['number' => 2, 'in' => 30, 'out' => 41, 'retired' => false, 'told' => []]);
    }

    public function test_what_is_not_here_is_asked_for_and_found_when_it_comes(): void
    {
        self::assertSame('gh010 and 1 more ask for reel_b.mov.', $this->bring([['reel_b.mov', 'gh010', 10, 10], ['reel_b.mov', 'gh020', 40, 10]])[1]);
        self::assertSame(['missing', 'missing'], array_column($this->shots(), 1));
        self::assertSame('Its footage is not here: bring in reel_b.mov.', $this->job->shots()->first()?->error);
        $file = $this->film('reel_b.mov', ['-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-timecode', '01:00:00:00'], '64x48', 60);
        $upload = $this->postJson("/api/jobs/{$this->job->id}/uploads", ['name' => 'reel_b.mov', 'size' => filesize($file)])->assertCreated()->json('id');
        $this->call('PUT', "/api/uploads/{$upload}", [], [], [], ['HTTP_UPLOAD_OFFSET' => '0', 'CONTENT_TYPE' => 'application/octet-stream'], (string) file_get_contents($file))->assertSuccessful();
        $this->postJson("/api/uploads/{$upload}/shot")->assertSuccessful();
        self::assertSame([['gh010', 'ready', 6, 23], ['gh020', 'ready', 36, 53]], $this->shots());
        // A file too short for what the cut shows of it says so.
        $this->bring([['reel_b.mov', 'gh030', 55, 10]]);
        self::assertSame('The cut asks for frames 55 to 64 of reel_b.mov, which has 0 to 59.', Shot::where('name', 'gh030')->sole()->error);
    }

    public function test_a_shot_of_a_bundle_takes_the_file_that_its_cut_names(): void
    {
        $this->bring([['reel_b.mov', 'gh010', 10, 10]]);
        Shot::sole()->update(['wants' => ['name' => 'another.mov', 'sha256' => str_repeat('ab', 32), 'span' => [0, 5]]]);
        $this->long('reel_b.mov', 36);
        $this->app->make(Cuts::class)->supply($this->job, Footage::sole());
        self::assertSame([['gh010', 'ready', 6, 23]], $this->shots());
    }

    public function test_a_shot_whose_file_is_on_its_way_is_left_alone(): void
    {
        $this->bring([['reel_b.mov', 'gh010', 10, 10]]);
        $shot = Shot::sole();
        $shot->update(['state' => ShotState::Reading]);
        self::assertSame(['1 shot was known.'], $this->bring([['reel_b.mov', 'gh010', 12, 10]]));
        self::assertSame([ShotState::Reading, 86412], [$shot->refresh()->state, $shot->cut['in'] ?? null]);
    }

    public function test_a_new_version_moves_grows_and_retires_without_losing_a_treatment(): void
    {
        $this->long('reel_a.mov');
        $this->bring([['reel_a.mov', 'gh010', 10, 10], ['reel_a.mov', 'gh020', 40, 10]]);
        $shot = Shot::where('name', 'gh010')->sole();
        $recipe = $this->recipe($shot);
        $recipe['areas'] = [[
            'id' => 'face', 'name' => 'Face', 'live' => ['from' => 6, 'to' => 23], 'touches' => [['id' => 't', 'kind' => 'exposure', 'stops' => 1]],
            'outline' => ['at' => 10, 'shapes' => [['id' => 's', 'kind' => 'ellipse', 'centre' => [0.6, 0.5], 'radii' => [0.2, 0.2]]]],
        ]];
        $this->putJson("/api/shots/{$shot->id}/recipe", ['base' => $shot->refresh()->revision, 'label' => 'A face', 'recipe' => $recipe])->assertOk();
        $this->postJson("/api/shots/{$shot->id}/follows", ['area' => 'face', 'start' => 10, 'from' => 6, 'to' => 23])->assertCreated();
        Queue::fake([FollowArea::class, PrepareFrames::class]);
        // The other order; the first one longer at its end; the second gone; a third.
        $told = $this->bring([['reel_a.mov', 'gh030', 25, 8], ['reel_a.mov', 'gh010', 12, 16]]);
        self::assertSame('1 shot is new, 1 was known, 1 is no longer in the cut.', $told[0]);
        self::assertContains('gh010 grew to frames 6 to 31; what was followed is followed on.', $told);
        self::assertSame([['gh030', 'ready', 21, 36], ['gh010', 'ready', 6, 31], ['gh020', 'ready', 36, 53]], $this->shots());
        $grown = $this->recipe($shot->refresh());
        self::assertSame([[6, 31], 6, 31, 'exposure'], [$grown['source']['span'], $grown['areas'][0]['live']['from'], $grown['areas'][0]['live']['to'], $grown['areas'][0]['touches'][0]['kind']]);
        $follow = Follow::latest('id')->firstOrFail();
        self::assertSame(['face', 23, 23, 31], [$follow->area, $follow->start, $follow->from, $follow->to]);
        self::assertTrue($this->getJson('/api/shots/' . Shot::where('name', 'gh020')->sole()->id)->json('cut.retired'));
        // Back again, shorter: what was longer is kept.
        $this->bring([['reel_a.mov', 'gh020', 42, 4], ['reel_a.mov', 'gh010', 12, 4]]);
        self::assertSame([['gh020', 'ready', 36, 53], ['gh010', 'ready', 6, 31], ['gh030', 'ready', 21, 36]], $this->shots());
    }

    public function test_a_shot_that_somebody_worked_on_already_is_the_event(): void
    {
        $file = $this->film('reel_c.mov', ['-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-timecode', '01:00:00:00'], '64x48', 60);
        $this->artisan('cossel:import', ['files' => [$file], '--job' => 'Glasshouse', '--frames' => '8-30']);
        $shot = Shot::sole();
        self::assertSame('1 shot is new.', $this->bring([['reel_c.mov', 'gh010', 10, 10]], 0)[0]);
        $this->putJson("/api/shots/{$shot->id}/recipe", ['base' => 1, 'label' => 'Base', 'recipe' => [...$this->recipe($shot), 'base' => [['id' => 'b', 'kind' => 'exposure', 'stops' => 1]]]])->assertOk();
        self::assertSame('1 shot was known, 1 is no longer in the cut.', $this->bring([['reel_c.mov', 'gh020', 26, 10]], 0)[0]);
        self::assertSame([['reel_c', 'ready', 8, 35], ['gh010', 'ready', 10, 19]], $this->shots());
    }

    public function test_the_cut_goes_out_as_it_came(): void
    {
        $this->long('reel_a.mov');
        $this->bring([['reel_a.mov', 'gh010', 10, 10], ['reel_a.mov', 'gh020', 40, 10]]);
        $edl = CutFile::read('x.edl', (string) $this->get("/api/jobs/{$this->job->id}/cut.edl")->assertOk()->getContent(), Rate::parse('24/1'));
        $otio = CutFile::read('x.otio', (string) $this->get("/api/jobs/{$this->job->id}/cut.otio")->assertOk()->getContent(), Rate::parse('24/1'));
        foreach ([$edl, $otio] as $cut) {
            self::assertSame([['gh010', 86410, 86420, 0], ['gh020', 86440, 86450, 10]], array_map(static fn($e): array => [$e->name, $e->in, $e->out, $e->at], $cut->events));
        }
        // Delivered, it is told from the delivery, which begins with its handle.
        $shot = Shot::where('name', 'gh020')->sole();
        $this->postJson("/api/shots/{$shot->id}/deliveries", ['format' => 'ffv1', 'from' => 36, 'to' => 53])->assertSuccessful();
        $cut = CutFile::read('x.otio', (string) $this->get("/api/jobs/{$this->job->id}/cut.otio")->getContent(), Rate::parse('24/1'));
        self::assertSame([4, 14, 0], [$cut->events[1]->in, $cut->events[1]->out, $cut->events[1]->start]);
        self::assertStringStartsWith('gh020', (string) $cut->events[1]->file);
        $this->get('/api/jobs/' . Job::create(['name' => 'Other'])->id . '/cut.otio')->assertStatus(422)->assertJsonPath('message', 'The file: no cut was brought into this job.');
    }

    public function test_what_is_no_cut_is_told_and_changes_nothing(): void
    {
        $this->send('a.edl', 'x')->assertOk()->assertJsonPath('told', ['state' => 'failed', 'message' => 'Line 1: expected an event, a comment or a title, found “x”.']);
        $this->send('a.otio', '{"a":')->assertOk()->assertJsonPath('told.message', 'The file: this is no JSON (syntax error).');
        $this->send('a.mov', 'x')->assertStatus(422)->assertJsonPath('message', 'A cut is an .otio or an .edl file.');
        config(['limits.texts.cut_bytes' => 2_000_000]);
        $this->send('a.edl', str_repeat('x', 2_000_001))->assertStatus(422)->assertJsonPath('message', 'A cut has at most 2 MB.');
        $this->send('a.edl', 'x', ['rate' => 'fast'])->assertStatus(422);
        $this->send('a.edl', 'x', ['handles' => -1])->assertStatus(422);
        self::assertSame(0, $this->job->shots()->count());
    }

    public function test_a_long_cut_is_brought_in_by_short_steps_and_gone_on_with(): void
    {
        $this->long('reel_a.mov');
        $events = array_map(static fn(int $i): array => [$i % 3 === 0 ? 'reel_b.mov' : 'reel_a.mov', 'gh' . ($i % 700), $i % 50, 4 + $i % 5], range(0, 3999));
        $cut = CutFile::read('x.edl', (string) file_get_contents($this->edl($events)), Rate::parse('24/1'));
        $steps = [];
        $depth = DB::transactionLevel();
        // Broken off in the middle, it is gone on with where the last whole step ended.
        $brought = new Brought();
        try {
            $this->app->make(Cuts::class)->bringIn($this->job, $cut, 2, $brought, static function (Brought $now) use (&$steps, $depth): void {
                self::assertGreaterThan($depth, DB::transactionLevel(), 'told within the step');
                $steps[] = $now->kept();
                count($steps) < 2 ?: throw new \DomainException('broken off');
            });
        } catch (\DomainException) {
        }
        $done = $steps[0]['done'];
        self::assertSame($done, $this->job->shots()->count());
        self::assertLessThan(3999, $done);
        $told = $this->app->make(Cuts::class)->bringIn($this->job, $cut, 2, Brought::of($steps[0]));
        self::assertSame(['4000 shots are new.', 'gh0 and 1333 more ask for reel_b.mov.'], $told);
        $shots = $this->job->shots()->get();
        self::assertSame([4000, 4000, 1334], [$shots->count(), $shots->unique('name')->count(), $shots->where('state', ShotState::Missing)->count()]);
        self::assertSame(range(0, 3999), $shots->pluck('position')->all());
        self::assertSame(array_column($cut->events, 'in'), $shots->map(static fn(Shot $shot): int => $shot->cut['in'] ?? -1)->all());
        $this->getJson("/api/shots/{$shots[1]->id}/recipe")->assertOk()->assertJsonPath('recipe.source.span', [0, 7]);
        // The same once more: every shot is its event again.
        self::assertSame(['4000 shots were known.', 'gh0 and 1333 more ask for reel_b.mov.'], $this->app->make(Cuts::class)->bringIn($this->job, $cut, 2));
        self::assertSame($shots->pluck('id')->all(), $this->job->shots()->pluck('id')->all());
        // What is asked for by so many is given to all of them.
        $this->long('reel_b.mov', 36);
        Queue::fake([PrepareFrames::class]);
        $this->app->make(Cuts::class)->supply($this->job, Footage::where('name', 'reel_b.mov')->sole());
        // Not all of it is decoded ahead: what looks for tell-tales waits behind that.
        Queue::assertPushed(PrepareFrames::class, 50);
        self::assertSame(0, $this->job->shots()->where('state', ShotState::Missing)->count());
    }
}
