<?php

declare(strict_types=1);

namespace Tests\App;

use App\Models\Carry;
use App\Models\Shot;
use App\Treatment\Tracks;
use App\Upkeep\Leftovers;
use Cossel\Core\Motion\Track;
use Cossel\Core\Recipe\Model;
use Illuminate\Support\Facades\Storage;
use Illuminate\Testing\TestResponse;

/** Treatments carried from shot to shot: proposed, looked at, taken, taken back. */
final class CarryTest extends AppTestCase
{
    private Shot $from;
    private Shot $to;

    protected function setUp(): void
    {
        parent::setUp();
        $this->from = $this->shot($this->film('from.mkv', ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p'], '192x108'));
        // The same in other light.
        $this->to = $this->shot($this->film('to.mkv', ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p'], '192x108', 20, filter: 'eq=brightness=-0.12'));
    }

    /**
     * @param list<array<string, mixed>> $touches
     *
     * @return array<string, mixed>
     */
    private static function face(array $touches): array
    {
        return [
            'id' => 'face', 'name' => 'Face', 'part' => 'face', 'person' => 'ione', 'live' => ['from' => 0, 'to' => 19], 'touches' => $touches,
            'outline' => ['at' => 0, 'shapes' => [['id' => 's', 'kind' => 'ellipse', 'centre' => [0.9, 0.5], 'radii' => [0.3, 0.3]]]],
        ];
    }

    /** @param array<string, mixed> $changes */
    private function save(Shot $shot, array $changes): void
    {
        $recipe = [...$this->recipe($shot), ...$changes];
        $this->putJson("/api/shots/{$shot->id}/recipe", ['base' => $shot->refresh()->revision, 'label' => 'Set', 'recipe' => $recipe])->assertOk();
    }

    /** @param array<string, mixed> $changes */
    private function carry(array $changes = []): TestResponse
    {
        return $this->postJson("/api/shots/{$this->from->id}/carries", ['areas' => [], 'base' => false, 'finish' => false, 'replace' => false, 'match' => false, 'shots' => [$this->to->id], ...$changes]);
    }

    public function test_a_base_is_proposed_taken_in_one_step_and_taken_back_beside_later_work(): void
    {
        $this->save($this->from, ['base' => [['id' => 'b', 'kind' => 'exposure', 'stops' => 0.5]]]);
        $this->carry(['base' => true])->assertOk();
        $carry = Carry::sole();
        $this->getJson("/api/shots/{$this->from->id}/carries")->assertOk()->assertJsonPath('0.state', 'proposed')->assertJsonPath('0.shot.name', 'to');
        // Nothing is changed before it is taken.
        self::assertSame([], $this->recipe($this->to)['base']);
        $pictures = array_map(fn(string $side): string => (string) $this->get("/api/carries/{$carry->id}/picture/{$side}")->assertOk()->getContent(), ['before', 'after']);
        self::assertNotSame($pictures[0], $pictures[1]);
        $revision = $this->to->refresh()->revision;
        $this->postJson("/api/carries/{$carry->id}/take")->assertOk()->assertJsonPath('state', 'taken');
        self::assertSame($revision + 1, $this->to->refresh()->revision);
        self::assertSame('exposure', $this->recipe($this->to)['base'][0]['kind']);
        $this->postJson("/api/carries/{$carry->id}/take")->assertStatus(409)->assertJsonPath('message', 'It is taken already.');
        // Somebody goes on with the shot; what was carried goes out alone.
        $this->save($this->to, ['finish' => [['id' => 'f', 'kind' => 'legal']]]);
        $this->postJson("/api/carries/{$carry->id}/back")->assertOk()->assertJsonPath('state', 'proposed');
        self::assertSame([[], 'legal'], [$this->recipe($this->to)['base'], $this->recipe($this->to)['finish'][0]['kind']]);
        $this->postJson("/api/carries/{$carry->id}/leave")->assertOk()->assertJsonPath('state', 'left');
    }

    public function test_a_part_that_is_there_takes_the_touches_and_is_made_to_look_the_same(): void
    {
        $this->save($this->from, ['areas' => [self::face([['id' => 't', 'kind' => 'exposure', 'stops' => 0.4]])]]);
        $this->save($this->to, ['areas' => [[...self::face([]), 'id' => 'own']]]);
        $this->carry(['areas' => ['face'], 'match' => true])->assertOk();
        $carry = Carry::sole();
        [$name, $before, $after] = $carry->misses[0];
        self::assertSame('Face', $name);
        self::assertGreaterThan(3.0, $before);
        self::assertLessThan(2.0, $after);
        $this->postJson("/api/carries/{$carry->id}/take")->assertOk();
        $areas = $this->recipe($this->to)['areas'];
        self::assertSame(['own', ['trim', 'exposure']], [$areas[0]['id'], array_column($areas[0]['touches'], 'kind')]);
        $this->getJson("/api/shots/{$this->from->id}/targets?person=ione")->assertOk()->assertJsonPath('0.name', 'to')->assertJsonPath('0.knows', true);
    }

    public function test_what_cannot_be_carried_is_told(): void
    {
        $this->save($this->from, ['areas' => [self::face([['id' => 't', 'kind' => 'exposure', 'stops' => 0.4]])]]);
        // Something round is there that is taken for an eye, but no face.
        $this->carry(['areas' => ['face']])->assertOk();
        $told = $this->getJson("/api/shots/{$this->from->id}/carries")->assertJsonPath('0.state', 'failed')->json('0.message');
        self::assertSame('Face: left out, the face is not seen whole.', $told);
        $this->carry(['areas' => ['nothing']])->assertStatus(404);
        $this->carry()->assertStatus(409)->assertJsonPath('message', 'Nothing is chosen to be carried.');
        $this->carry(['base' => true, 'shots' => [$this->from->id]])->assertStatus(409)->assertJsonPath('message', 'No shot is chosen that it could be carried to.');
        $this->carry(['base' => true, 'shots' => []])->assertStatus(422);
        $this->postJson('/api/carries/' . Carry::sole()->id . '/take')->assertStatus(409);
        $this->get('/api/carries/' . Carry::sole()->id . '/picture/after')->assertStatus(404);
        self::assertSame(1, $this->to->refresh()->revision);
    }

    public function test_shots_that_know_the_person_come_first_then_those_in_like_light(): void
    {
        $dark = $this->shot($this->film('dark.mkv', ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p'], '192x108', 20, filter: 'eq=brightness=-0.4'));
        $this->save($this->from, ['areas' => [self::face([])]]);
        $names = fn(): array => $this->getJson("/api/shots/{$this->from->id}/targets?person=ione")->assertOk()->json('*.name');
        self::assertSame(['to', 'dark'], $names());
        $this->save($dark, ['areas' => [self::face([])]]);
        self::assertSame(['dark', 'to'], $names());
    }

    public function test_what_only_a_proposal_needs_is_not_cleared_away(): void
    {
        $this->save($this->from, ['base' => [['id' => 'b', 'kind' => 'exposure', 'stops' => 0.5]]]);
        $this->carry(['base' => true])->assertOk();
        $sha256 = app(Tracks::class)->keep(Track::beginning(0, Model::Similarity));
        $path = Storage::disk('data')->path(Tracks::path($sha256));
        $carry = Carry::sole();
        $carry->update(['recipe' => str_replace('"areas":[]', '"areas":[{"motion":{"track":{"sha256":"' . $sha256 . '"}}}]', (string) $carry->recipe)]);
        touch($path, time() - 400 * 86400);
        app(Leftovers::class)->clear();
        self::assertFileExists($path);
        $this->postJson("/api/carries/{$carry->id}/leave")->assertOk();
        touch($path, time() - 400 * 86400);
        app(Leftovers::class)->clear();
        self::assertFileDoesNotExist($path);
    }

    public function test_a_shot_that_changed_meanwhile_keeps_what_was_done(): void
    {
        $this->save($this->from, ['base' => [['id' => 'b', 'kind' => 'exposure', 'stops' => 0.5]]]);
        $this->carry(['base' => true])->assertOk();
        $this->save($this->to, ['areas' => [self::face([])]]);
        $this->postJson('/api/carries/' . Carry::sole()->id . '/take')->assertOk();
        self::assertSame(['exposure', 'face'], [$this->recipe($this->to)['base'][0]['kind'], $this->recipe($this->to)['areas'][0]['id']]);
    }

    public function test_a_treatment_is_kept_under_a_name_and_laid_on_other_shots(): void
    {
        $this->save($this->from, ['areas' => [self::face([['id' => 't', 'kind' => 'exposure', 'stops' => 0.4]])], 'base' => [['id' => 'b', 'kind' => 'exposure', 'stops' => 0.2]]]);
        $this->save($this->to, ['areas' => [[...self::face([]), 'id' => 'own']]]);
        $this->postJson("/api/shots/{$this->from->id}/treatments", ['title' => 'Evening', 'areas' => [], 'base' => false, 'finish' => false])->assertStatus(409);
        $id = $this->postJson("/api/shots/{$this->from->id}/treatments", ['title' => 'Evening', 'areas' => ['face'], 'base' => true, 'finish' => false])->assertOk()->assertJson(['title' => 'Evening', 'areas' => ['Face'], 'base' => true])->json('id');
        $jobs = "/api/jobs/{$this->from->job_id}/treatments";
        $this->getJson($jobs)->assertOk()->assertJsonPath('0.id', $id);
        // Its shot can go; what was kept stays, and looks the same on another.
        $look = $this->from;
        $this->carry(['areas' => ['face'], 'base' => true, 'match' => true])->assertOk();
        $misses = Carry::sole()->misses;
        $this->deleteJson("/api/shots/{$look->id}")->assertNoContent();
        Carry::query()->delete();
        $this->postJson("{$jobs}/{$id}/carries", ['shots' => [$this->to->id], 'person' => 'ione', 'replace' => false])->assertOk()->assertJsonPath('0.shot.name', 'to');
        $carry = Carry::sole();
        self::assertEqualsWithDelta($misses[0][2], $carry->misses[0][2], 0.1);
        $this->postJson("/api/carries/{$carry->id}/take")->assertOk();
        self::assertSame(['trim', 'exposure'], array_column($this->recipe($this->to)['areas'][0]['touches'], 'kind'));
        self::assertSame('Laid on: Evening', $this->getJson("/api/shots/{$this->to->id}/history")->json('0.label'));
        // As a file, into another job.
        $file = (string) $this->get("{$jobs}/{$id}")->assertOk()->assertDownload('evening.recipe.json')->getContent();
        $other = \App\Models\Job::create(['name' => 'Other']);
        $this->postJson("/api/jobs/{$other->id}/treatments", ['title' => 'Evening', 'text' => $file])->assertOk();
        $this->postJson("/api/jobs/{$other->id}/treatments", ['title' => 'Broken', 'text' => '{"cossel": 1'])->assertStatus(422);
        $this->postJson("/api/jobs/{$other->id}/treatments", ['title' => 'Broken', 'text' => (string) json_encode($this->recipe($this->to))])->assertStatus(422)->assertJsonPath('pointer', '/source');
        $this->deleteJson("{$jobs}/{$id}")->assertNoContent();
        $this->deleteJson("/api/jobs/{$other->id}/treatments/{$id}")->assertNotFound();
    }

    public function test_a_shot_is_compared_with_another_and_brought_to_it(): void
    {
        $this->save($this->from, ['areas' => [self::face([['id' => 't', 'kind' => 'exposure', 'stops' => 0.4]])]]);
        $this->save($this->to, ['areas' => [[...self::face([]), 'id' => 'own']]]);
        $asked = ['frame' => 4, 'other' => $this->from->id, 'otherFrame' => 5];
        [$pair] = $this->postJson("/api/shots/{$this->to->id}/beside", $asked)->assertOk()->assertJsonCount(1)->json();
        self::assertSame(['own', 'face', 96 * 96], [$pair['area'], $pair['other'], count($pair['here']['cloud'])]);
        self::assertGreaterThan(3.0, $pair['apart']);
        self::assertGreaterThan($pair['here']['mean'][0], $pair['there']['mean'][0]);
        self::assertGreaterThan(100, array_sum($pair['here']['cloud']));
        foreach ([[['own'], false], [['own'], true]] as [$areas, $base]) {
            $matched = $this->postJson("/api/shots/{$this->to->id}/beside/match", [...$asked, 'areas' => $areas, 'base' => $base])->assertOk()->json();
            self::assertLessThan(2.0, $matched['misses'][0]['after']);
            self::assertSame($base ? ['trim', []] : [null, ['trim']], [$matched['recipe']['base'][0]['kind'] ?? null, array_column($matched['recipe']['areas'][0]['touches'], 'kind')]);
            $after = $this->postJson("/api/shots/{$this->to->id}/beside", [...$asked, 'recipe' => $matched['recipe']])->assertOk()->json('0.apart');
            self::assertLessThan($pair['apart'] / 2, $after);
            // What is told of it is what is seen of these two frames.
            self::assertEqualsWithDelta([$pair['apart'], $after], [$matched['misses'][0]['before'], $matched['misses'][0]['after']], 0.02);
        }
        // Nothing of it is saved.
        self::assertSame([], $this->recipe($this->to)['areas'][0]['touches']);
        $this->postJson("/api/shots/{$this->to->id}/beside/match", [...$asked, 'areas' => ['none']])->assertStatus(409)->assertJsonPath('message', 'None of these areas has its like in the other shot.');
        $this->postJson("/api/shots/{$this->to->id}/beside", ['other' => 999] + $asked)->assertNotFound();
    }
}
