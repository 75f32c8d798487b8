<?php

declare(strict_types=1);

namespace Tests\App;

use App\Models\FrameNote;
use App\Models\Preset;
use App\Models\Shot;

/** What a job is told to do and kept in order by: notes on frames, shots put away, kept ways of delivering. */
final class NotesTest extends AppTestCase
{
    private Shot $shot;

    protected function setUp(): void
    {
        parent::setUp();
        $this->shot = $this->shot($this->film('gh010.mkv', ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p'], '64x48', 20), [2, 15]);
    }

    public function test_notes_stand_on_frames_of_the_shot_and_are_kept_when_resolved(): void
    {
        $note = $this->postJson("/api/shots/{$this->shot->id}/notes", ['frame' => 7, 'text' => 'Less shine here'])->assertSuccessful()->assertJsonFragment(['frame' => 7, 'resolved' => false])->json('id');
        $this->postJson("/api/shots/{$this->shot->id}/notes", ['frame' => 3, 'text' => 'And here'])->assertSuccessful();
        self::assertSame(2, $this->getJson("/api/jobs/{$this->shot->job_id}")->json('shots.0.openNotes'));
        $this->patchJson("/api/shots/{$this->shot->id}/notes/{$note}", ['resolved' => true])->assertOk()->assertJson(['text' => 'Less shine here', 'resolved' => true]);
        self::assertSame([[3, false], [7, true]], array_map(static fn(array $n): array => [$n['frame'], $n['resolved']], $this->getJson("/api/shots/{$this->shot->id}/notes")->json()));
        self::assertSame(1, $this->getJson("/api/shots/{$this->shot->id}")->json('openNotes'));
        $this->postJson("/api/shots/{$this->shot->id}/notes", ['frame' => 16, 'text' => 'x'])->assertStatus(422);
        $this->postJson("/api/shots/{$this->shot->id}/notes", ['frame' => 7, 'text' => ''])->assertStatus(422);
        $other = $this->shot($this->film('gh020.mkv', ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p'], '64x48', 5));
        $this->patchJson("/api/shots/{$other->id}/notes/{$note}", ['resolved' => false])->assertNotFound();
        $this->deleteJson("/api/shots/{$this->shot->id}/notes/{$note}")->assertNoContent();
        $this->deleteJson("/api/shots/{$this->shot->id}")->assertNoContent();
        self::assertSame(0, FrameNote::count());
    }

    public function test_a_shot_put_away_is_kept_as_it_is(): void
    {
        $this->patchJson("/api/shots/{$this->shot->id}", ['archived' => true])->assertOk()->assertJson(['archived' => true, 'name' => 'gh010']);
        $this->patchJson("/api/shots/{$this->shot->id}", ['name' => 'gh011'])->assertOk()->assertJson(['archived' => true, 'name' => 'gh011']);
        $this->patchJson("/api/shots/{$this->shot->id}", ['archived' => false])->assertOk()->assertJson(['archived' => false]);
        $this->getJson("/api/shots/{$this->shot->id}/recipe")->assertOk();
        $this->patchJson("/api/shots/{$this->shot->id}", ['archived' => 'perhaps'])->assertStatus(422);
    }

    public function test_a_job_keeps_ways_of_delivering(): void
    {
        $order = ['title' => 'To the cutting room', 'format' => 'prores', 'handles' => true, 'name' => '{shot}_v{version}', 'height' => 1080, 'mattes' => 'exr', 'beside' => ['tracks']];
        $url = "/api/jobs/{$this->shot->job_id}/presets";
        $this->postJson($url, $order)->assertOk();
        $id = $this->postJson($url, ['format' => 'exr', 'height' => null] + $order)->assertOk()->json('id');
        [$kept] = $this->getJson($url)->assertOk()->assertJsonCount(1)->json();
        self::assertSame(['To the cutting room', 'exr', null, ['tracks'], 'exr', true], [$kept['title'], $kept['order']['format'], $kept['order']['height'], $kept['order']['beside'], $kept['order']['mattes'], $kept['order']['handles']]);
        $this->postJson($url, ['name' => '{take}'] + $order)->assertStatus(422);
        $this->postJson($url, ['format' => 'film'] + $order)->assertStatus(422);
        $this->deleteJson("{$url}/{$id}")->assertNoContent();
        self::assertSame(0, Preset::count());
    }
}
