<?php

declare(strict_types=1);

namespace Tests\App;

use App\Models\Job;
use App\Models\Shot;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use PHPUnit\Framework\Attributes\Group;

/** Data of every earlier release opens: migrated, read, rendered, edited. Each release adds its own folder beside the first. */
#[Group('slow')]
final class ArchiveTest extends AppTestCase
{
    use FirstRelease;

    protected function prepare(): void
    {
        self::assertSame(0, Artisan::call('migrate', ['--force' => true]));
        // Footage is kept by its content: the demo's own files.
        foreach (glob(base_path('demo/footage/*.webm')) ?: [] as $film) {
            symlink($film, "{$this->folder}/data/footage/" . hash_file('sha256', $film));
        }
    }

    public function test_jobs_and_shots_stand_in_the_order_they_had(): void
    {
        $row = $this->getJson('/api/jobs')->assertOk()->json(0);
        self::assertSame(['The Verrin Glasshouse', 5, 5], [$row['name'], $row['shots'], count($row['posters'])]);
        $job = $this->getJson("/api/jobs/{$row['id']}")->assertOk()->json();
        self::assertSame('The Verrin Glasshouse', $job['name']);
        self::assertSame(['gh010_backlit', 'gh020_laugh', 'gh030_gaze', 'gh040_skin', 'gh050_leaf'], array_column($job['shots'], 'name'));
        self::assertSame(['Dario', 'Ione', 'Wren'], array_column($job['people'], 'name'));
        foreach ($job['shots'] as $shot) {
            self::assertNull($shot['error'], $shot['name']);
            self::assertNotNull($shot['progress'], $shot['name']);
        }
    }

    public function test_every_recipe_is_read_rendered_and_taken_back_unchanged(): void
    {
        foreach (Shot::all() as $shot) {
            $state = $this->getJson("/api/shots/{$shot->id}/recipe")->assertOk();
            $recipe = json_decode($state->getContent())->recipe;
            $this->postJson("/api/shots/{$shot->id}/picture", ['frame' => 40, 'view' => 'result', 'height' => 90])->assertOk();
            $this->getJson("/api/shots/{$shot->id}/motions")->assertOk();
            $saved = $this->putJson("/api/shots/{$shot->id}/recipe", ['base' => $state->json('revision'), 'label' => 'Saved by a later release', 'recipe' => $recipe])->assertOk();
            self::assertEquals($recipe, json_decode($saved->getContent())->recipe, $shot->name);
        }
    }

    public function test_history_versions_limits_and_deliveries_are_still_there(): void
    {
        $shot = Job::firstOrFail()->shots()->where('name', 'gh010_backlit')->firstOrFail();
        self::assertSame(['Base, exposure: light', 'Face, exposure: light', 'Demo treatment', 'Brought in'], array_column($this->getJson("/api/shots/{$shot->id}/history")->assertOk()->json(), 'label'));
        $version = $this->getJson("/api/shots/{$shot->id}/versions")->json(0);
        self::assertSame('As delivered first', $version['name']);
        $this->postJson("/api/shots/{$shot->id}/versions/{$version['id']}/restore", ['base' => $shot->revision])->assertOk()->assertJsonPath('undo', 'Back to As delivered first');
        $delivery = $this->getJson('/api/deliveries')->assertOk()->json(0);
        self::assertSame(['done', 0, 3], [$delivery['state'], $delivery['from'], $delivery['to']]);
        self::assertSame(['drift' => 12], Shot::where('name', 'gh020_laugh')->firstOrFail()->limits);
    }

    public function test_what_an_older_engine_judged_is_not_shown_as_if_it_were_this_ones(): void
    {
        $shot = Shot::where('name', 'gh020_laugh')->firstOrFail();
        self::assertSame(1, $shot->judgings()->count());
        $this->getJson("/api/shots/{$shot->id}/telltales")->assertOk()->assertJson(['begun' => false, 'findings' => null]);
    }

    public function test_work_that_was_queued_then_is_done_now(): void
    {
        self::assertSame(5, DB::table('queue_jobs')->count());
        config(['queue.default' => 'work']);
        Artisan::call('queue:work', ['--once' => true, '--queue' => 'ahead', '--quiet' => true]);
        self::assertNotEmpty(glob("{$this->folder}/cache/frames/*/*/*") ?: []);
    }
}
