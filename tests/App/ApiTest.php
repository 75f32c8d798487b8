<?php

declare(strict_types=1);

namespace Tests\App;

use App\Models\Job;
use App\Models\Shot;

final class ApiTest extends AppTestCase
{
    private Shot $shot;

    protected function setUp(): void
    {
        parent::setUp();
        $this->shot = $this->shot($this->film('clip.mkv', ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p'], '192x108'));
    }

    /** @return array<string, mixed> */
    private function area(): array
    {
        return [
            'id' => 'face', 'name' => 'Face',
            'outline' => ['at' => 5, 'shapes' => [['id' => 's1', 'kind' => 'ellipse', 'centre' => [0.9, 0.5], 'radii' => [0.3, 0.3], 'featherOut' => 0.05]]],
            'live' => ['from' => 0, 'to' => 29],
            'touches' => [['id' => 't1', 'kind' => 'exposure', 'stops' => 1]],
        ];
    }

    private function save(array $recipe, int $base, string $label = 'Edit'): \Illuminate\Testing\TestResponse
    {
        return $this->putJson("/api/shots/{$this->shot->id}/recipe", ['base' => $base, 'label' => $label, 'recipe' => $recipe]);
    }

    /** As the bench does: from the revision it shows. */
    private function move(string $how): \Illuminate\Testing\TestResponse
    {
        return $this->postJson("/api/shots/{$this->shot->id}/{$how}", ['base' => $this->shot->refresh()->revision]);
    }

    public function test_edits_are_revisions_and_undo_and_redo_move_among_them(): void
    {
        $recipe = $this->recipe($this->shot);
        $recipe['base'] = [['id' => 'b1', 'kind' => 'exposure', 'stops' => 0.5]];
        $this->save($recipe, 1, 'Base exposure')->assertOk()->assertJsonPath('revision', 2)->assertJsonPath('undo', 'Base exposure');
        $recipe['base'][0]['stops'] = 0.7;
        $this->save($recipe, 2, 'More')->assertOk();
        $this->move('undo')->assertJsonPath('recipe.base.0.stops', 0.5)->assertJsonPath('redo', 'More');
        $this->move('undo')->assertJsonPath('recipe.base', [])->assertJsonPath('undo', null);
        $this->move('undo')->assertOk()->assertJsonPath('revision', 1);
        $this->move('redo')->assertJsonPath('revision', 2);
        $this->move('redo')->assertJsonPath('recipe.base.0.stops', 0.7)->assertJsonPath('redo', null);
    }

    public function test_an_edit_on_an_older_revision_is_merged_or_refused_with_its_place(): void
    {
        $old = $this->recipe($this->shot);
        $theirs = $mine = $clash = $old;
        $theirs['base'] = [['id' => 'b1', 'kind' => 'exposure', 'stops' => 0.5]];
        $this->save($theirs, 1)->assertOk();
        $mine['areas'] = [$this->area()];
        $merged = $this->save($mine, 1)->assertOk()->assertJsonPath('parent', 2)->json('recipe');
        self::assertSame(['b1', 'face'], [$merged['base'][0]['id'], $merged['areas'][0]['id']]);
        $other = $merged;
        $merged['base'][0]['stops'] = 1;
        $other['base'][0]['stops'] = 2;
        $this->save($merged, 3)->assertOk();
        $this->save($other, 3)->assertStatus(409)->assertJsonPath('pointer', '/base/b1/stops');
        self::assertSame(1, $this->recipe($this->shot)['base'][0]['stops']);
    }

    public function test_a_broken_recipe_is_refused_with_the_place_and_nothing_is_lost(): void
    {
        $recipe = $this->recipe($this->shot);
        $recipe['base'] = [['id' => 'b1', 'kind' => 'exposure', 'stops' => 99]];
        $this->save($recipe, 1)->assertStatus(422)->assertJsonPath('pointer', '/base/0/stops')->assertJsonPath('expected', 'a number from -6 to 6');
        $recipe['base'] = [];
        $recipe['source']['sha256'] = str_repeat('0', 64);
        $this->save($recipe, 1)->assertStatus(422)->assertJsonPath('pointer', '/source/sha256');
        $recipe = $this->recipe($this->shot);
        $recipe['areas'] = [[...$this->area(), 'motion' => ['by' => 'follow', 'track' => ['sha256' => str_repeat('0', 64)]]]];
        $this->save($recipe, 1)->assertStatus(422)->assertJsonPath('pointer', '/areas/0/motion/track/sha256');
        $this->getJson("/api/shots/{$this->shot->id}/recipe")->assertJsonPath('revision', 1);
    }

    public function test_what_does_not_exist_is_a_404_with_a_sentence(): void
    {
        $this->getJson('/api/shots/999')->assertNotFound()->assertJsonPath('message', 'There is no such shot. It may have been deleted.');
        $this->postJson('/api/deliveries/999/retry')->assertNotFound()->assertJsonPath('message', 'There is no such delivery. It may have been deleted.');
        $this->postJson("/api/shots/{$this->shot->id}/follows", ['area' => 'nose', 'start' => 5, 'from' => 0, 'to' => 29])->assertNotFound()->assertJsonPath('message', 'There is no area “nose” in this recipe.');
        $this->postJson("/api/shots/{$this->shot->id}/picture", ['frame' => 5, 'view' => 'matte', 'area' => 'nose', 'height' => 54])->assertNotFound();
        $this->getJson('/api/nowhere')->assertNotFound();
    }

    public function test_pictures_of_a_frame_beyond_the_span_are_refused(): void
    {
        $this->postJson("/api/shots/{$this->shot->id}/picture", ['frame' => 30, 'view' => 'result', 'height' => 54])->assertStatus(422);
        $this->postJson("/api/shots/{$this->shot->id}/picture", ['frame' => 3, 'view' => 'inside out', 'height' => 54])->assertStatus(422);
    }

    public function test_the_picture_is_the_rendering_and_a_window_of_it_says_where_it_lies(): void
    {
        $recipe = $this->recipe($this->shot);
        $recipe['areas'] = [$this->area()];
        $this->save($recipe, 1)->assertOk();
        $whole = $this->postJson("/api/shots/{$this->shot->id}/picture", ['frame' => 5, 'view' => 'result', 'height' => 108])->assertOk();
        self::assertSame('0 0 192 108 192 108', $whole->headers->get('X-Picture-Place'));
        self::assertSame([192, 108], array_slice((array) getimagesizefromstring((string) $whole->getContent()), 0, 2));
        $part = $this->postJson("/api/shots/{$this->shot->id}/picture", ['frame' => 5, 'view' => 'result', 'height' => 108, 'window' => [0.5, 0.25, 1.0, 0.75]])->assertOk();
        self::assertSame('54 27 54 54 192 108', $part->headers->get('X-Picture-Place'));
        $matte = imagecreatefromstring((string) $this->postJson("/api/shots/{$this->shot->id}/picture", ['frame' => 5, 'view' => 'matte', 'area' => 'face', 'height' => 108])->getContent());
        self::assertNotFalse($matte);
        self::assertSame([255, 0], [imagecolorat($matte, 97, 54) & 255, imagecolorat($matte, 3, 3) & 255]);
    }

    public function test_an_unsaved_recipe_can_be_looked_at_and_is_not_kept(): void
    {
        $recipe = $this->recipe($this->shot);
        $recipe['base'] = [['id' => 'b1', 'kind' => 'exposure', 'stops' => 2]];
        $ask = ['frame' => 5, 'view' => 'result', 'height' => 108];
        $plain = $this->postJson("/api/shots/{$this->shot->id}/picture", $ask)->getContent();
        self::assertNotSame($plain, $this->postJson("/api/shots/{$this->shot->id}/picture", [...$ask, 'recipe' => $recipe])->getContent());
        self::assertSame($plain, $this->postJson("/api/shots/{$this->shot->id}/picture", $ask)->getContent());
        $witnesses = $this->postJson("/api/shots/{$this->shot->id}/witnesses", [...$ask, 'frames' => [5, 9], 'recipe' => [...$recipe, 'areas' => [$this->area()]], 'area' => 'face', 'width' => 60])->assertOk()->streamedContent();
        self::assertSame(2, substr_count($witnesses, '"frame":'));
        $this->postJson("/api/shots/{$this->shot->id}/scope", [...$ask, 'scope' => 'waveform'])->assertOk()->assertJsonPath('columns', 48 * 4);
    }

    public function test_an_upload_comes_in_pieces_and_goes_on_after_a_break(): void
    {
        $bytes = (string) file_get_contents($this->film('up.mkv', ['-c:v', 'ffv1']));
        $job = Job::firstOrFail();
        $upload = $this->postJson("/api/jobs/{$job->id}/uploads", ['name' => '../up.mkv', 'size' => strlen($bytes)])->assertCreated()->json('id');
        $send = fn(int $offset, string $piece) => $this->call('PUT', "/api/uploads/{$upload}?offset={$offset}", content: $piece, server: ['CONTENT_TYPE' => 'application/octet-stream', 'HTTP_ACCEPT' => 'application/json']);
        $half = intdiv(strlen($bytes), 2);
        $send(0, substr($bytes, 0, $half))->assertOk()->assertJsonPath('received', $half);
        $send(0, substr($bytes, 0, $half))->assertJsonPath('received', $half);
        $this->postJson("/api/uploads/{$upload}/shot")->assertStatus(409);
        $send($half, substr($bytes, $half) . 'beyond')->assertJsonPath('received', strlen($bytes));
        $shot = $this->postJson("/api/uploads/{$upload}/shot", ['from' => 2, 'to' => 9])->assertSuccessful()->json('id');
        $this->getJson("/api/shots/{$shot}")->assertJsonPath('state', 'ready')->assertJsonPath('name', 'up')->assertJsonPath('from', 2);
    }

    public function test_other_sites_and_other_names_are_refused(): void
    {
        $this->postJson('/api/jobs', ['name' => 'x'], ['Origin' => 'http://127.0.0.1:8600'])->assertSuccessful();
        $this->postJson('/api/jobs', ['name' => 'x'], ['Origin' => 'https://evil.example'])->assertForbidden();
        $this->postJson('/api/jobs', ['name' => 'x'], ['Origin' => 'null'])->assertForbidden();
        $this->get('http://evil.example/api/jobs')->assertForbidden();
    }

    public function test_following_puts_a_track_into_the_recipe(): void
    {
        $recipe = $this->recipe($this->shot);
        $this->save([...$recipe, 'areas' => [$this->area()]], 1)->assertOk();
        $this->postJson("/api/shots/{$this->shot->id}/follows", ['area' => 'face', 'start' => 5, 'from' => 0, 'to' => 9])->assertSuccessful()->assertJsonPath('state', 'done');
        $this->getJson("/api/shots/{$this->shot->id}/recipe")->assertJsonPath('undo', 'Follow Face')->assertJsonPath('recipe.areas.0.motion.by', 'follow');
        $motion = $this->getJson("/api/shots/{$this->shot->id}/motions")->json('areas.face');
        self::assertCount(30, $motion['matrices']);
        self::assertSame('set', $motion['states'][5]);
        $empty = [...$this->area(), 'id' => 'empty', 'outline' => ['at' => 0, 'shapes' => []], 'touches' => []];
        $now = $this->getJson("/api/shots/{$this->shot->id}/recipe")->json();
        $this->save([...$now['recipe'], 'areas' => [...$now['recipe']['areas'], $empty]], $now['revision'])->assertOk();
        $this->postJson("/api/shots/{$this->shot->id}/follows", ['area' => 'empty', 'start' => 5, 'from' => 0, 'to' => 9])->assertStatus(409);
        $this->postJson("/api/shots/{$this->shot->id}/follows", ['area' => 'face', 'start' => 50, 'from' => 0, 'to' => 60])->assertStatus(422);
    }
}
