<?php

declare(strict_types=1);

namespace Tests\App;

use App\Models\Job;
use App\Models\Shot;
use App\Models\ShotState;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;
use PHPUnit\Framework\Attributes\DataProvider;

/** Jobs, their shots and people: order, names, what is removed, and lists that never break or slow down. */
final class JobsTest extends AppTestCase
{
    private function clip(string $name, int $hue = 0): Shot
    {
        return $this->shot($this->film("{$name}.mkv", ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p'], '192x108', 12, filter: "hue=h={$hue}"));
    }

    /** @return list<string> queries of a request */
    private function queries(string $url): array
    {
        DB::flushQueryLog();
        DB::enableQueryLog();
        $this->getJson($url)->assertOk();
        DB::disableQueryLog();

        return array_column(DB::getQueryLog(), 'query');
    }

    public function test_lists_ask_the_database_as_often_for_many_shots_as_for_one(): void
    {
        $begun = function (string $name, int $frames): void {
            $shot = $this->clip($name, $frames);
            $this->putJson("/api/shots/{$shot->id}/recipe", ['base' => 1, 'label' => 'Base', 'recipe' => [...$this->recipe($shot), 'base' => [['id' => 'b', 'kind' => 'exposure', 'stops' => 1]]]])->assertOk();
        };
        $begun('a', 10);
        $job = Job::firstOrFail();
        [$all, $one] = [count($this->queries('/api/jobs')), count($this->queries("/api/jobs/{$job->id}"))];
        $begun('b', 20);
        $begun('c', 30);
        $this->clip('d', 12);
        Job::create(['name' => 'Another']);
        self::assertSame($all, count($this->queries('/api/jobs')));
        self::assertSame($one, count($this->queries("/api/jobs/{$job->id}")));
        self::assertLessThan(12, $all);
    }

    public function test_one_broken_row_never_breaks_a_list(): void
    {
        $good = $this->clip('good', 10);
        $bad = $this->clip('bad', 20);
        $bad->revisions()->update(['recipe' => '{"cossel":"recipe/1","areas":"no list"}']);
        $this->getJson('/api/jobs')->assertOk()->assertJsonPath('0.shots', 2)->assertJsonPath('0.left', 2);
        $shots = $this->getJson("/api/jobs/{$good->job_id}")->assertOk()->json('shots');
        self::assertSame(['good', 'bad'], array_column($shots, 'name'));
        self::assertNotNull($shots[0]['progress']);
        self::assertNull($shots[1]['progress']);
        self::assertStringContainsString('cannot be read', $shots[1]['error']);
        $this->getJson("/api/shots/{$bad->id}")->assertOk();
        $this->deleteJson("/api/shots/{$bad->id}")->assertNoContent();
    }

    /** @return iterable<string, array{string, array<string, string>}> a table, and what stands in it */
    public static function damagedFacts(): iterable
    {
        yield 'footage, no JSON' => ['footage', ['info' => 'x']];
        yield 'footage, nothing in it' => ['footage', ['info' => '{}']];
        yield 'footage, something else' => ['footage', ['info' => '{"width":"wide","times":7}']];
        yield 'a cut' => ['shots', ['cut' => '{"number":1}']];
        yield 'a cut, no JSON' => ['shots', ['cut' => '{']];
        yield 'a state' => ['shots', ['state' => 'drunk']];
        yield 'a recipe' => ['revisions', ['recipe' => '{']];
        yield 'limits' => ['shots', ['limits' => '7']];
    }

    /** @param array<string, string> $facts */
    #[DataProvider('damagedFacts')]
    public function test_a_shot_whose_stored_facts_are_damaged_is_a_row_that_says_so(string $table, array $facts): void
    {
        $good = $this->clip('good', 10);
        $bad = $this->clip('bad', 20);
        $this->putJson("/api/shots/{$bad->id}/recipe", ['base' => 1, 'label' => 'Base', 'recipe' => [...$this->recipe($bad), 'base' => [['id' => 'b', 'kind' => 'exposure', 'stops' => 1]]]])->assertOk();
        DB::table($table)->where($table === 'revisions' ? 'shot_id' : 'id', $table === 'footage' ? $bad->footage_id : $bad->id)->update($facts);
        $this->getJson('/api/jobs')->assertOk()->assertJsonPath('0.shots', 2);
        $shots = $this->getJson("/api/jobs/{$good->job_id}")->assertOk()->json('shots');
        self::assertSame([null, 'good'], [$shots[0]['error'], $shots[0]['name']]);
        self::assertSame('bad', $shots[1]['name']);
        if ($table !== 'shots' || !isset($facts['limits'])) {
            self::assertMatchesRegularExpression('/damaged|cannot be read/', (string) $shots[1]['error']);
        }
        foreach (['/api/deliveries', "/api/shots/{$good->id}/targets", "/api/shots/{$bad->id}", "/api/jobs/{$good->job_id}/carries/" . \Illuminate\Support\Str::uuid(), '/api/upkeep', "/api/jobs/{$good->job_id}/deliveries.sha256"] as $list) {
            self::assertLessThan(500, $this->getJson($list)->status(), $list);
        }
        $this->deleteJson("/api/shots/{$bad->id}")->assertNoContent();
    }

    public function test_an_aspect_that_leaves_no_picture_is_refused_at_the_door(): void
    {
        $shot = $this->shot($this->film('thin.mkv', ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p'], '64x64', filter: 'setsar=1/255'));
        self::assertSame(ShotState::Failed, $shot->state);
        self::assertStringContainsString('too small to be footage', (string) $shot->error);
        $this->getJson('/api/jobs')->assertOk()->assertJsonPath('0.shots', 1);
        $this->getJson("/api/jobs/{$shot->job_id}")->assertOk()->assertJsonPath('shots.0.error', $shot->error);
    }

    public function test_shots_stand_in_the_order_they_are_put_in(): void
    {
        $shots = [$this->clip('a', 10), $this->clip('b', 20), $this->clip('c', 30)];
        $job = $shots[0]->job_id;
        $order = fn(): array => array_column($this->getJson("/api/jobs/{$job}")->json('shots'), 'name');
        self::assertSame(['a', 'b', 'c'], $order());
        $this->putJson("/api/jobs/{$job}/order", ['shots' => [$shots[2]->id, $shots[0]->id, $shots[1]->id]])->assertOk();
        self::assertSame(['c', 'a', 'b'], $order());
        // Those left out keep their order, behind.
        $this->putJson("/api/jobs/{$job}/order", ['shots' => [$shots[1]->id]])->assertOk();
        self::assertSame(['b', 'c', 'a'], $order());
        $this->putJson("/api/jobs/{$job}/order", ['shots' => [1, 1]])->assertStatus(422);
    }

    public function test_names_change_and_notes_can_be_emptied(): void
    {
        $shot = $this->clip('a');
        $this->patchJson("/api/shots/{$shot->id}", ['name' => 'Close-up', 'notes' => 'Warmer', 'base' => ''])->assertOk()->assertJson(['name' => 'Close-up', 'notes' => 'Warmer']);
        $this->patchJson("/api/shots/{$shot->id}", ['notes' => 'Cooler'])->assertStatus(422);
        // Somebody else wrote meanwhile: what both wrote stays.
        $this->patchJson("/api/shots/{$shot->id}", ['notes' => 'Less shine', 'base' => ''])->assertOk()->assertJson(['notes' => "Warmer\nLess shine"]);
        $this->patchJson("/api/shots/{$shot->id}", ['notes' => '', 'base' => "Warmer\nLess shine"])->assertOk()->assertJson(['name' => 'Close-up', 'notes' => '']);
        $this->patchJson("/api/shots/{$shot->id}", ['name' => ''])->assertStatus(422);
        $this->putJson("/api/jobs/{$shot->job_id}", ['name' => 'Reel two'])->assertOk()->assertJson(['name' => 'Reel two']);
    }

    public function test_two_names_never_fall_together_in_whatever_script(): void
    {
        $job = Job::create(['name' => 'Job']);
        $add = fn(string $name): array => $this->postJson("/api/jobs/{$job->id}/people", ['name' => $name])->assertOk()->json('people');
        foreach (['Ída', 'Ida', '高橋', '高橋 二', 'Анна', '!', 'Ida'] as $name) {
            $people = $add($name);
        }
        self::assertCount(6, $people);
        self::assertCount(6, array_unique(array_column($people, 'slug')));
        foreach ($people as $person) {
            self::assertMatchesRegularExpression('/^[A-Za-z0-9_-]{1,64}$/', $person['slug']);
        }
        $slug = $people[0]['slug'];
        $this->putJson("/api/jobs/{$job->id}/people/{$slug}", ['name' => $people[1]['name']])->assertStatus(422);
        $this->putJson("/api/jobs/{$job->id}/people/{$slug}", ['name' => 'Zoë'])->assertOk();
        self::assertContains(['slug' => $slug, 'name' => 'Zoë'], $this->getJson("/api/jobs/{$job->id}")->json('people'));
    }

    public function test_somebody_removed_leaves_their_areas_as_nobodys_and_undo_brings_them_back(): void
    {
        $shot = $this->clip('a');
        $this->postJson("/api/jobs/{$shot->job_id}/people", ['name' => 'Wren'])->assertOk();
        $recipe = [...$this->recipe($shot), 'areas' => [['id' => 'f', 'name' => 'Face', 'person' => 'wren', 'outline' => ['at' => 0], 'live' => ['from' => 0, 'to' => 11]]], 'assets' => new \stdClass()];
        $this->putJson("/api/shots/{$shot->id}/recipe", ['base' => 1, 'label' => 'Face', 'recipe' => $recipe])->assertOk();
        $this->deleteJson("/api/jobs/{$shot->job_id}/people/wren")->assertOk()->assertJsonPath('people', []);
        $this->getJson("/api/shots/{$shot->id}/recipe")->assertJsonPath('recipe.areas.0.person', null)->assertJsonPath('undo', 'Remove Wren');
        $this->postJson("/api/shots/{$shot->id}/undo", ['base' => 3])->assertJsonPath('recipe.areas.0.person', 'wren');
    }

    public function test_what_is_removed_gives_its_disk_space_back_and_takes_nothing_that_others_use(): void
    {
        $film = $this->film('same.mkv', ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p'], '192x108', 12);
        [$one, $two] = [$this->shot($film), $this->shot($film)];
        $other = $this->clip('other', 90);
        $disk = Storage::disk('data');
        $footage = static fn(): int => count($disk->files('footage'));
        self::assertSame(2, $footage());
        $recipe = [...$this->recipe($one), 'assets' => new \stdClass(), 'areas' => [['id' => 'f', 'name' => 'Face', 'outline' => ['at' => 5, 'shapes' => [['id' => 's', 'kind' => 'ellipse', 'centre' => [0.9, 0.5], 'radii' => [0.3, 0.3]]]], 'live' => ['from' => 0, 'to' => 11]]]];
        $this->putJson("/api/shots/{$one->id}/recipe", ['base' => 1, 'label' => 'Face', 'recipe' => $recipe])->assertOk();
        $this->postJson("/api/shots/{$one->id}/follows", ['area' => 'f', 'start' => 5, 'from' => 3, 'to' => 7])->assertCreated();
        $delivery = $this->postJson("/api/shots/{$one->id}/deliveries", ['format' => 'ffv1', 'from' => 0, 'to' => 2])->assertCreated()->json('id');
        self::assertTrue($disk->exists("deliveries/{$delivery}"));
        self::assertCount(1, $disk->allFiles('tracks'));
        $frames = fn(Shot $shot): bool => is_dir("{$this->folder}/cache/frames/{$shot->footage?->sha256}");
        $sha256 = $one->footage->sha256;
        self::assertTrue($frames($one));
        $this->deleteJson("/api/shots/{$one->id}")->assertNoContent();
        self::assertFalse($disk->exists("deliveries/{$delivery}"));
        self::assertSame([], $disk->allFiles('tracks'));
        self::assertSame(2, $footage(), 'the second shot is cut from the same file');
        $this->deleteJson("/api/shots/{$two->id}")->assertNoContent();
        self::assertSame(1, $footage());
        self::assertDirectoryDoesNotExist("{$this->folder}/cache/frames/{$sha256}");
        $this->deleteJson("/api/jobs/{$other->job_id}")->assertNoContent();
        self::assertSame(0, $footage());
        self::assertSame([0, 0], [Shot::count(), DB::table('footage')->count()]);
    }

    public function test_the_last_frame_alone_can_be_asked_for_at_import(): void
    {
        $job = Job::create(['name' => 'Job']);
        $file = $this->film('a.mkv', ['-c:v', 'ffv1'], frames: 12);
        $upload = function () use ($job, $file): string {
            $id = $this->postJson("/api/jobs/{$job->id}/uploads", ['name' => 'a.mkv', 'size' => filesize($file)])->assertCreated()->json('id');
            $this->call('PUT', "/api/uploads/{$id}?offset=0", content: (string) file_get_contents($file))->assertOk();

            return $id;
        };
        $shot = $this->postJson("/api/uploads/{$upload()}/shot", ['to' => 7])->assertSuccessful()->json('id');
        self::assertSame([0, 7], [Shot::findOrFail($shot)->from, Shot::findOrFail($shot)->to]);
        $shot = $this->postJson("/api/uploads/{$upload()}/shot", ['from' => 4])->assertSuccessful()->json('id');
        self::assertSame([4, 11], [Shot::findOrFail($shot)->from, Shot::findOrFail($shot)->to]);
        $this->postJson("/api/uploads/{$upload()}/shot", ['from' => 8, 'to' => 7])->assertStatus(422);
    }
}
