<?php

declare(strict_types=1);

namespace Tests\App;

use App\Footage\FileLock;
use App\Models\Follow;
use App\Models\FollowState;
use App\Models\Shot;

final class OutlineTest extends AppTestCase
{
    private Shot $shot;

    protected function setUp(): void
    {
        parent::setUp();
        $this->shot = $this->shot($this->film('clip.mkv', ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p'], '192x108'));
    }

    /** @param array<string, mixed> $changes */
    private function save(array $changes): void
    {
        $recipe = [...$this->recipe($this->shot), ...$changes];
        $this->putJson("/api/shots/{$this->shot->id}/recipe", ['base' => $this->shot->refresh()->revision, 'label' => 'Edit', 'recipe' => $recipe])->assertOk();
    }

    /** @return array<string, mixed> */
    private static function area(): array
    {
        return [
            'id' => 'face', 'name' => 'Face',
            'outline' => ['at' => 5, 'shapes' => [
                ['id' => 's1', 'kind' => 'ellipse', 'centre' => [0.9, 0.5], 'radii' => [0.4, 0.4]],
                ['id' => 's2', 'kind' => 'path', 'join' => 'cut', 'points' => [['at' => [0.7, 0.4]], ['at' => [0.9, 0.4]], ['at' => [0.8, 0.6]]]],
            ]],
            'motion' => ['by' => 'follow', 'start' => 5, 'span' => [0, 9], 'model' => 'position', 'track' => null],
            'live' => ['from' => 0, 'to' => 29],
        ];
    }

    public function test_a_path_along_edges_leads_from_one_click_to_the_other(): void
    {
        $points = $this->postJson("/api/shots/{$this->shot->id}/edge", ['frame' => 3, 'from' => [0.4, 0.3], 'to' => [0.9, 0.6]])->assertOk()->json('points');
        self::assertSame([0.4, 0.3], $points[0]['at']);
        self::assertLessThan(0.06, hypot($points[count($points) - 1]['at'][0] - 0.9, $points[count($points) - 1]['at'][1] - 0.6));
        $this->postJson("/api/shots/{$this->shot->id}/edge", ['frame' => 300, 'from' => [0.4, 0.3], 'to' => [0.9, 0.6]])->assertStatus(422);
        $this->postJson("/api/shots/{$this->shot->id}/edge", ['frame' => 3, 'from' => [0, 0], 'to' => [9, 9]])->assertStatus(422)->assertJsonPath('message', 'These two places are too far apart for a path along edges. Click in between.');
    }

    public function test_an_outline_goes_out_as_svg_and_comes_in_again(): void
    {
        $this->save(['areas' => [self::area()]]);
        $svg = $this->get("/api/shots/{$this->shot->id}/areas/face/outline.svg?frame=5")->assertOk()->assertHeader('Content-Type', 'image/svg+xml')->getContent();
        $paths = $this->postJson('/api/svg', ['text' => $svg])->assertOk()->json('paths');
        self::assertCount(2, $paths);
        self::assertEqualsWithDelta([0.7, 0.4], $paths[1][0]['at'], 1e-4);
        self::assertEqualsWithDelta(0.4, max(array_map(static fn(array $p): float => $p['at'][0], $paths[0])) - 0.9, 1e-4);
        $this->postJson('/api/svg', ['text' => 'hello'])->assertStatus(422)->assertJsonPath('message', 'This is no SVG document.');
        $this->get("/api/shots/{$this->shot->id}/areas/chin/outline.svg?frame=5")->assertStatus(404);
    }

    public function test_an_area_and_a_shape_of_it_are_followed_for_themselves(): void
    {
        $this->save(['areas' => [self::area()]]);
        $follow = fn(array $more) => $this->postJson("/api/shots/{$this->shot->id}/follows", ['area' => 'face', 'start' => 5, 'from' => 2, 'to' => 8, ...$more]);
        $follow([])->assertCreated()->assertJsonPath('shape', null);
        $follow(['shape' => 'nobody'])->assertStatus(404);
        $follow(['shape' => 's1'])->assertCreated()->assertJsonPath('shape', 's1');
        self::assertSame([FollowState::Done, FollowState::Done], Follow::orderBy('id')->pluck('state')->all());
        $area = $this->recipe($this->shot->refresh())['areas'][0];
        self::assertNotNull($area['motion']['track']);
        self::assertNotNull($area['outline']['shapes'][0]['motion']['track']);
        self::assertNull($area['outline']['shapes'][1]['motion']);
        $motions = $this->getJson("/api/shots/{$this->shot->id}/motions")->assertOk()->json('areas.face');
        self::assertCount(30, $motions['shapes']['s1']['matrices']);
        self::assertSame('set', $motions['states'][5]);
        self::assertArrayNotHasKey('s2', $motions['shapes']);
    }

    public function test_following_points_one_by_one_without_a_path_is_explained(): void
    {
        $area = self::area();
        $area['motion']['model'] = 'outline';
        unset($area['outline']['shapes'][1]);
        $this->save(['areas' => [$area]]);
        $this->postJson("/api/shots/{$this->shot->id}/follows", ['area' => 'face', 'start' => 5, 'from' => 2, 'to' => 8])->assertCreated();
        $follow = Follow::latest('id')->firstOrFail();
        self::assertSame([FollowState::Failed, 'Points can only be followed one by one on a path. Turn the outline into a path first, or choose another motion.'], [$follow->state, $follow->message]);
    }

    public function test_people_are_looked_for_and_nothing_is_changed(): void
    {
        // A test pattern is nobody, and that is no error.
        $this->postJson("/api/shots/{$this->shot->id}/person", ['frame' => 4])->assertOk()->assertExactJson(['people' => [], 'most' => 8, 'near' => null]);
        // One bench asks for one at a time.
        $lock = "{$this->folder}/data/finding-" . hash('xxh128', 'mine') . '.lock';
        FileLock::hold($lock, function (): void {
            $this->withHeaders(['X-Bench' => 'mine'])->postJson("/api/shots/{$this->shot->id}/person", ['frame' => 4])->assertStatus(429)->assertJsonPath('message', 'People are being looked for already. Wait until that is done.');
            $this->withHeaders(['X-Bench' => 'theirs'])->postJson("/api/shots/{$this->shot->id}/person", ['frame' => 4])->assertOk();
        });
        $this->postJson("/api/shots/{$this->shot->id}/person", ['frame' => 400])->assertStatus(422);
        self::assertCount(0, $this->recipe($this->shot->refresh())['areas'] ?? []);
    }

    public function test_the_tint_lightens_the_picture_inside_the_outline_only(): void
    {
        $this->save(['areas' => [self::area()]]);
        $shown = fn(string $view) => imagecreatefromstring((string) $this->postJson("/api/shots/{$this->shot->id}/picture", ['frame' => 5, 'view' => $view, 'area' => 'face', 'height' => 108])->assertOk()->getContent());
        $sum = static fn(\GdImage $image, int $x, int $y): int => array_sum(array_slice(imagecolorsforindex($image, imagecolorat($image, $x, $y)), 0, 3));
        [$plain, $tint] = [$shown('result'), $shown('tint')];
        self::assertGreaterThan($sum($plain, 120, 60) + 60, $sum($tint, 120, 60));
        self::assertEqualsWithDelta($sum($plain, 5, 5), $sum($tint, 5, 5), 6);
    }
}
