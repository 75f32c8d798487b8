<?php

declare(strict_types=1);

namespace Tests\App;

use App\Footage\UnreadableFootage;
use App\Models\Job;
use App\Models\Judging;
use App\Models\Look;
use App\Models\Shot;
use App\Pictures\PictureCache;
use App\Work\LookOver;
use Illuminate\Filesystem\Filesystem;
use Illuminate\Support\Facades\Queue;
use PHPUnit\Framework\Attributes\Group;

/** Looking a shot over, its limits and cures, over HTTP. */
#[Group('slow')]
final class JudgingTest extends AppTestCase
{
    private Shot $shot;

    protected function setUp(): void
    {
        parent::setUp();
        $this->artisan('cossel:import', ['files' => [base_path('demo/footage/gh020_laugh.webm')], '--job' => 'Judge', '--frames' => '36-43'])->assertSuccessful();
        $this->shot = Job::firstOrFail()->shots()->firstOrFail();
        $this->save([['id' => 'w', 'kind' => 'exposure', 'stops' => 2.5]]);
    }

    /** @param list<array<string, mixed>> $touches */
    private function save(array $touches): void
    {
        $state = $this->getJson("/api/shots/{$this->shot->id}/recipe")->json();
        $areas = [[
            'id' => 'face', 'name' => 'Face', 'part' => 'face',
            'outline' => ['at' => 40, 'shapes' => [['id' => 's', 'kind' => 'ellipse', 'centre' => [0.87, 0.45], 'radii' => [0.2, 0.3]]]],
            'live' => ['from' => 36, 'to' => 43],
            'touches' => $touches,
        ]];
        $this->putJson("/api/shots/{$this->shot->id}/recipe", ['base' => $state['revision'], 'label' => 'Lift', 'recipe' => [...$state['recipe'], 'areas' => $areas]])->assertOk();
        $this->shot->refresh();
    }

    private function url(string $more = ''): string
    {
        return "/api/shots/{$this->shot->id}/telltales{$more}";
    }

    public function test_a_shot_is_looked_over_once_a_revision_and_told_of(): void
    {
        $this->getJson($this->url())->assertOk()->assertJson(['begun' => false, 'done' => 0, 'total' => 8, 'findings' => null]);
        $state = $this->postJson($this->url())->assertOk()->json();
        self::assertSame([8, 8], [$state['done'], $state['total']]);
        $halo = array_values(array_filter($state['findings'], static fn(array $f): bool => $f['telltale'] === 'halo'))[0];
        self::assertTrue($halo['rings']);
        self::assertSame([[36, 43]], $halo['spans']);
        self::assertSame($halo['measure'], max(array_column($halo['measures'], 1)));
        self::assertContains('levels', array_column($state['findings'], 'telltale'));
        $this->postJson($this->url())->assertOk();
        self::assertSame(1, Judging::count());
        $progress = $this->getJson("/api/shots/{$this->shot->id}")->json('progress');
        self::assertContains(['telltale' => 'halo', 'area' => 'face', 'frame' => $halo['worst']], $progress['telltales']);
        self::assertFalse($progress['areas'][0]['judge']);
        self::assertStringContainsString('look at what gives it away', $progress['left']);
    }

    public function test_limits_move_what_rings_and_keep_to_their_range(): void
    {
        $this->postJson($this->url());
        $limited = $this->putJson($this->url('/limit'), ['telltale' => 'levels', 'limit' => 100])->assertOk()->json('findings');
        $levels = array_values(array_filter($limited, static fn(array $f): bool => $f['telltale'] === 'levels'))[0];
        self::assertSame([100, false, 1], [$levels['limit'], $levels['rings'], $levels['usual']]);
        $this->putJson($this->url('/limit'), ['telltale' => 'levels', 'limit' => 101])->assertStatus(422);
        $this->putJson($this->url('/limit'), ['telltale' => 'shine', 'limit' => 1])->assertStatus(422);
        $this->putJson($this->url('/limit'), ['telltale' => 'levels', 'limit' => null])->assertOk();
        self::assertSame([], $this->shot->refresh()->limits);
    }

    public function test_a_cure_is_proposed_as_a_recipe_and_quietens_what_rang(): void
    {
        $this->save([['id' => 'w', 'kind' => 'exposure', 'stops' => 0.6]]);
        $this->postJson($this->url());
        $cures = $this->getJson($this->url('/cures?telltale=halo&area=face'))->assertOk()->json();
        self::assertStringContainsString('Widen the outer feather', $cures[0]['words']);
        $this->putJson("/api/shots/{$this->shot->id}/recipe", ['base' => $this->shot->revision, 'label' => 'Cure', 'recipe' => [...$cures[0]['recipe'], 'assets' => (object) []]])->assertOk();
        $findings = $this->postJson($this->url())->json('findings');
        $halo = array_values(array_filter($findings, static fn(array $f): bool => $f['telltale'] === 'halo'))[0];
        self::assertFalse($halo['rings'], "{$halo['measure']}");
        self::assertSame([], $this->getJson($this->url('/cures?telltale=halo&area=face'))->json());
        self::assertSame([], $this->getJson($this->url('/cures?telltale=nonesuch'))->json());
    }

    public function test_work_for_a_revision_that_was_left_is_given_up_and_a_failed_look_says_why(): void
    {
        Queue::fake();
        $this->postJson($this->url())->assertJson(['begun' => true, 'findings' => null]);
        Queue::assertPushed(LookOver::class, 2);
        $look = Look::firstOrFail();
        (new LookOver($look->id))->failed(UnreadableFootage::gone('film.mkv'));
        $this->getJson($this->url())->assertJson(['message' => 'The footage of film.mkv is no longer where it was. Bring it in again to go on.']);
        $this->postJson($this->url())->assertJson(['message' => null, 'begun' => true]);
        $look = Look::firstOrFail();
        $this->save([]);
        app()->call([new LookOver($look->id), 'handle']);
        self::assertSame(0, Judging::count());
        self::assertSame(0, Look::count());
    }

    public function test_a_look_that_was_kept_before_its_worker_died_is_not_taken_again_but_finished(): void
    {
        Queue::fake();
        $this->postJson($this->url());
        [$first, $last] = Look::all()->all();
        $take = static fn(Look $look): mixed => app()->call([new LookOver($look->id), 'handle']);
        $take($first);
        $last->update(['looks' => json_encode(['42' => ['levels' => ['' => [7.5]]]])]);
        $take($last);
        $levels = Judging::firstOrFail()->measures['levels'][''];
        self::assertSame([36, 37, 38, 39, 40, 41, 42], array_keys($levels));
        self::assertEqualsWithDelta(7.5, $levels[42], 1e-9);
        // Coming again, it changes nothing.
        $take($last);
        self::assertSame(['', ''], Look::pluck('looks')->all());
    }

    public function test_a_judging_whose_work_never_came_into_the_queue_is_begun_anew(): void
    {
        $judging = $this->shot->judgings()->create(['revision' => $this->shot->revision, 'engine' => config('cossel.engine')]);
        $judging->looks()->create(['from' => 36, 'to' => 43]);
        $this->getJson($this->url())->assertJson(['begun' => true, 'findings' => null]);
        self::assertNotNull($this->postJson($this->url())->assertOk()->json('findings'));
        self::assertSame(1, Judging::count());
    }

    public function test_a_changed_engine_shows_no_old_result(): void
    {
        $this->postJson($this->url());
        config(['cossel.engine' => 'another']);
        $this->getJson($this->url())->assertJson(['begun' => false, 'findings' => null]);
        $kept = fn(string $engine): PictureCache => new PictureCache(new Filesystem(), "{$this->folder}/cache/pictures", 1 << 20, $engine);
        self::assertSame('old', $kept('one')->get(['a picture'], static fn(): string => 'old'));
        self::assertSame('old', $kept('one')->get(['a picture'], static fn(): string => 'new'));
        self::assertSame('new', $kept('another')->get(['a picture'], static fn(): string => 'new'));
    }

    public function test_pictures_are_made_again_only_of_frames_that_an_edit_is_seen_on(): void
    {
        $keyed = static fn(float $later): array => [['id' => 'w', 'kind' => 'exposure', 'stops' => ['value' => 1, 'keys' => [['frame' => 38, 'value' => 1], ['frame' => 40, 'value' => $later]]]]];
        $made = fn(): int => count(glob("{$this->folder}/cache/pictures/*/*.jpg") ?: []);
        $show = fn(int $frame): string => (string) $this->postJson("/api/shots/{$this->shot->id}/picture", ['frame' => $frame, 'view' => 'result', 'height' => 180])->assertOk()->getContent();
        $this->save($keyed(2));
        [$early, $late] = [$show(37), $show(41)];
        self::assertSame(2, $made());
        $this->save($keyed(0));
        self::assertSame($early, $show(37));
        self::assertSame(2, $made());
        self::assertNotSame($late, $show(41));
        self::assertSame(3, $made());
    }
}
