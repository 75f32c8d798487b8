<?php

declare(strict_types=1);

namespace Tests\App;

use App\Models\Shot;
use Illuminate\Testing\TestResponse;

/** The history of a shot, going back in it, and what somebody has judged. */
final class HistoryTest extends AppTestCase
{
    private Shot $shot;

    protected function setUp(): void
    {
        parent::setUp();
        $this->shot = $this->shot($this->film('a.mkv', ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p'], '192x108', 12));
    }

    /** @param callable(array<string, mixed>): array<string, mixed> $change */
    private function save(string $label, callable $change): TestResponse
    {
        $state = $this->getJson("/api/shots/{$this->shot->id}/recipe")->json();

        return $this->putJson("/api/shots/{$this->shot->id}/recipe", ['base' => $state['revision'], 'label' => $label, 'recipe' => [...$change($state['recipe']), 'assets' => new \stdClass()]])->assertOk();
    }

    /** @return array<string, mixed> */
    private static function area(string $id, float $x, string $side = 'inside'): array
    {
        return [
            'id' => $id, 'name' => $id, 'outline' => ['at' => 5, 'shapes' => [['id' => "s{$id}", 'kind' => 'ellipse', 'centre' => [$x, 0.5], 'radii' => [0.2, 0.2]]]],
            'live' => ['from' => 0, 'to' => 11], 'touches' => [['id' => "t{$id}", 'kind' => 'exposure', 'side' => $side, 'stops' => 0.5]],
        ];
    }

    public function test_every_revision_is_told_with_its_words_newest_first_and_by_pages(): void
    {
        for ($i = 1; $i <= 104; ++$i) {
            $this->save("Step {$i}", static fn(array $r): array => [...$r, 'base' => [['id' => 'b', 'kind' => 'exposure', 'stops' => $i / 100]]]);
        }
        $page = $this->getJson("/api/shots/{$this->shot->id}/history")->assertOk()->json();
        self::assertCount(100, $page);
        self::assertSame(['Step 104', 105, 104], [$page[0]['label'], $page[0]['revision'], $page[0]['parent']]);
        self::assertNotNull($page[0]['createdAt']);
        $rest = $this->getJson("/api/shots/{$this->shot->id}/history?before={$page[99]['revision']}")->assertOk()->json();
        self::assertSame([1, 'Brought in', null], [end($rest)['revision'], end($rest)['label'], end($rest)['parent']]);
        self::assertSame(105, count($page) + count($rest));
    }

    public function test_an_earlier_revision_is_looked_at_and_gone_back_to_as_a_new_step(): void
    {
        $picture = fn(array $more = []): string => (string) $this->postJson("/api/shots/{$this->shot->id}/picture", ['frame' => 3, 'view' => 'result', 'height' => 54, ...$more])->assertOk()->getContent();
        $untouched = $picture();
        $this->save('Bright', static fn(array $r): array => [...$r, 'base' => [['id' => 'b', 'kind' => 'exposure', 'stops' => 2]]]);
        $bright = $picture();
        self::assertNotSame($untouched, $bright);
        self::assertSame($untouched, $picture(['revision' => 1]));
        self::assertSame($bright, $picture());
        $this->postJson("/api/shots/{$this->shot->id}/history/1/restore", ['base' => 2])->assertOk()->assertJson(['revision' => 3, 'undo' => 'Back to 1, Brought in', 'recipe' => ['base' => []]]);
        self::assertSame($untouched, $picture());
        $this->postJson("/api/shots/{$this->shot->id}/undo", ['base' => 3])->assertJsonPath('recipe.base.0.stops', 2);
        $this->postJson("/api/shots/{$this->shot->id}/history/9/restore", ['base' => 2])->assertNotFound();
        $this->postJson("/api/shots/{$this->shot->id}/history/1/restore", ['base' => 1])->assertStatus(409);
        $this->postJson("/api/shots/{$this->shot->id}/history/1/restore")->assertStatus(422);
    }

    public function test_undo_in_a_stale_tab_takes_nothing_back_that_it_does_not_show(): void
    {
        $this->save('Mine', static fn(array $r): array => [...$r, 'base' => [['id' => 'b', 'kind' => 'exposure', 'stops' => 1]]]);
        $this->save('Theirs', static fn(array $r): array => [...$r, 'finish' => [['id' => 'f', 'kind' => 'exposure', 'stops' => 1]]]);
        $this->postJson("/api/shots/{$this->shot->id}/undo", ['base' => 2])->assertStatus(409)->assertJsonPath('message', 'This shot was changed elsewhere in the meantime, last by “Theirs”. That is shown now; nothing else was done.');
        $this->getJson("/api/shots/{$this->shot->id}/recipe")->assertJsonPath('revision', 3);
        $this->postJson("/api/shots/{$this->shot->id}/redo", ['base' => 2])->assertStatus(409);
        $this->postJson("/api/shots/{$this->shot->id}/undo")->assertStatus(422);
        $this->postJson("/api/shots/{$this->shot->id}/undo", ['base' => 3])->assertOk()->assertJsonPath('revision', 2);
    }

    public function test_no_change_is_refused_for_its_label(): void
    {
        $this->save(str_repeat('Look-up table ', 30), static fn(array $r): array => [...$r, 'base' => [['id' => 'b', 'kind' => 'exposure', 'stops' => 1]]]);
        $label = $this->getJson("/api/shots/{$this->shot->id}/recipe")->assertJsonPath('recipe.base.0.stops', 1)->json('undo');
        self::assertSame(120, mb_strlen($label));
        self::assertStringEndsWith('…', $label);
    }

    public function test_a_part_is_judged_when_somebody_says_so_until_something_is_changed_that_is_seen_in_it(): void
    {
        $areas = [self::area('left', 0.3), self::area('right', 1.4)];
        $this->save('Areas', static fn(array $r): array => [...$r, 'areas' => $areas]);
        $url = "/api/shots/{$this->shot->id}/areas/left/tick";
        $judged = fn(): array => $this->getJson("/api/shots/{$this->shot->id}/recipe")->json('judged');
        self::assertSame([], $judged());
        $this->putJson($url)->assertOk()->assertJsonPath('judged', ['left']);
        $progress = fn(): array => $this->getJson("/api/shots/{$this->shot->id}")->json('progress');
        self::assertSame([true, false], array_column($progress()['areas'], 'judge'));
        self::assertStringContainsString('judge right', $progress()['left']);
        // Names, people and what lies elsewhere say nothing to it.
        $areas[1]['touches'][0]['stops'] = 2;
        $areas[0]['name'] = 'Other name';
        $this->save('Elsewhere', static fn(array $r): array => [...$r, 'areas' => $areas]);
        self::assertSame(['left'], $judged());
        // Its own touch, an area that comes to lie over it, surroundings of another, the base: all are seen in it.
        $seen = [
            static fn(array $r): array => [...$r, 'areas' => [self::area('left', 0.3), [...self::area('right', 1.4)]], 'base' => [['id' => 'b', 'kind' => 'exposure', 'stops' => 0.1]]],
            static fn(array $r): array => [...$r, 'areas' => [$areas[0], self::area('right', 0.5)]],
            static fn(array $r): array => [...$r, 'areas' => [$areas[0], self::area('right', 1.4, 'outside')]],
            static fn(array $r): array => [...$r, 'areas' => [[...$areas[0], 'touches' => [['id' => 'tleft', 'kind' => 'exposure', 'stops' => 0.6]]], $areas[1]]],
        ];
        foreach ($seen as $i => $change) {
            $base = $this->save("Seen {$i}", $change)->json('revision');
            self::assertSame([], $judged(), (string) $i);
            // Taken back, it is as it was judged.
            $this->postJson("/api/shots/{$this->shot->id}/undo", ['base' => $base])->assertOk();
            self::assertSame(['left'], $judged(), (string) $i);
        }
        $this->deleteJson($url)->assertOk()->assertJsonPath('judged', []);
        $this->putJson("/api/shots/{$this->shot->id}/areas/nonesuch/tick")->assertNotFound();
    }

    public function test_a_shot_is_done_when_all_of_its_parts_are(): void
    {
        $this->save('Areas', static fn(array $r): array => [...$r, 'areas' => [[...self::area('left', 0.3), 'motion' => ['by' => 'none', 'keys' => [['frame' => 5]]]]]]);
        $progress = fn(): array => $this->getJson("/api/jobs/{$this->shot->job_id}")->json('shots.0.progress');
        $left = fn(): int => $this->getJson('/api/jobs')->json('0.left');
        self::assertSame([false, 1], [$progress()['done'], $left()]);
        $this->putJson("/api/shots/{$this->shot->id}/areas/left/tick")->assertOk();
        self::assertSame([true, 'ready to deliver', 0], [$progress()['done'], $progress()['left'], $left()]);
        $this->postJson("/api/shots/{$this->shot->id}/deliveries", ['format' => 'ffv1', 'from' => 0, 'to' => 1])->assertCreated();
        self::assertSame([true, 'delivered'], [$progress()['done'], $progress()['left']]);
    }
}
