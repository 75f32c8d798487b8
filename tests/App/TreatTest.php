<?php

declare(strict_types=1);

namespace Tests\App;

use App\Models\Job;
use App\Models\Shot;
use App\Pictures\BenchPictures;
use App\Pictures\View;
use App\Pictures\Wanted;
use App\Treatment\Recipes;
use Illuminate\Testing\TestResponse;
use PHPUnit\Framework\Attributes\Group;

/** Picks, scopes, files and proposals over HTTP. */
#[Group('slow')]
final class TreatTest extends AppTestCase
{
    private Shot $shot;

    protected function setUp(): void
    {
        parent::setUp();
        $this->artisan('cossel:import', ['files' => [base_path('demo/footage/gh030_gaze.webm')], '--job' => 'Treat', '--frames' => '36-47'])->assertSuccessful();
        $this->shot = Job::firstOrFail()->shots()->firstOrFail();
        $this->save(['areas' => [[
            'id' => 'l', 'name' => 'Left iris', 'part' => 'iris',
            'outline' => ['at' => 40, 'shapes' => [['id' => 's', 'kind' => 'ellipse', 'centre' => [1.1193, 0.4629], 'radii' => [0.0945, 0.09]]]],
            'live' => ['from' => 36, 'to' => 47],
            'touches' => [['id' => 't', 'kind' => 'iris', 'strength' => 1, 'hue' => 150]],
        ]]]);
    }

    /** @param array<string, mixed> $changes */
    private function save(array $changes): TestResponse
    {
        $state = $this->getJson("/api/shots/{$this->shot->id}/recipe")->json();

        return $this->putJson("/api/shots/{$this->shot->id}/recipe", ['base' => $state['revision'], 'label' => 'Change', 'recipe' => [...$state['recipe'], ...$changes]])->assertOk();
    }

    /** @param array<string, mixed> $more */
    private function ofArea(string $what, array $more = []): TestResponse
    {
        return $this->postJson("/api/shots/{$this->shot->id}/areas/l/{$what}", ['frame' => 40, ...$more]);
    }

    public function testSamplesProposeRangesThatTakeWhatWasSampled(): void
    {
        $pick = $this->ofArea('pick', ['sign' => '+', 'from' => [1.06, 0.45], 'to' => [1.08, 0.47], 'follow' => true])->assertOk()->json('pick');
        self::assertCount(9, $pick['samples']);
        self::assertGreaterThan(0.2, $pick['follow']);
        self::assertLessThan(360, $pick['hue'][1]);
        $more = $this->save(['areas' => [[...$this->areas()[0], 'pick' => $pick]]])->json('recipe.areas.0.pick');
        self::assertEquals($pick, $more);
        $with = $this->ofArea('pick', ['sign' => '-', 'from' => [1.3, 0.45], 'to' => [1.3, 0.45], 'follow' => false])->assertOk()->json('pick');
        self::assertSame('-', $with['samples'][9]['sign']);
        self::assertNull($with['follow']);
        $matte = $this->picture('matte');
        self::assertNotSame($this->picture('result'), $matte);
        self::assertNotSame($matte, $this->picture('picked'));
        $this->ofArea('pick', ['follow' => 'yes please'])->assertStatus(422);
        $this->ofArea('pick', ['sign' => '+', 'from' => [1, 1], 'follow' => false])->assertStatus(422);
    }

    public function testAPickWithoutAnOutlineTakesFromTheWholeFrame(): void
    {
        $area = [...$this->areas()[0], 'outline' => ['at' => 40, 'shapes' => []], 'touches' => [['id' => 't', 'kind' => 'exposure', 'stops' => 2]]];
        $this->save(['areas' => [$area]]);
        $untouched = $this->picture('result');
        $this->save(['areas' => [[...$area, 'pick' => ['light' => [0.6, 1.5, 0.05]]]]]);
        self::assertNotSame($untouched, $this->picture('result'));
    }

    public function testAnAreasColoursAndOnePlace(): void
    {
        $colours = $this->ofArea('colours')->assertOk();
        self::assertCount(72, $colours->json('shares.hue'));
        self::assertGreaterThan(0.1, $colours->json('mean.0'));
        self::assertLessThan(95.1, abs($colours->json('balance.temperature')));
        $white = $this->ofArea('sample', ['at' => [1.3, 0.45]])->assertOk();
        $iris = $this->ofArea('sample', ['at' => [1.07, 0.46]])->assertOk();
        self::assertGreaterThan($iris->json('lab.0') + 0.1, $white->json('lab.0'));
        $this->ofArea('sample', ['at' => [19, 19]])->assertStatus(422);
        $this->postJson("/api/shots/{$this->shot->id}/areas/nobody/colours", ['frame' => 40])->assertNotFound()->assertJsonPath('message', 'There is no area “nobody” in this recipe.');
        $this->ofArea('colours', ['frame' => 2])->assertStatus(422);
    }

    public function testTheOtherEyeIsMadeLinkedAndTreatedAlike(): void
    {
        $other = $this->ofArea('other')->assertOk()->json('area');
        self::assertSame(['Right iris', ['with' => 'l', 'linked' => true], []], [$other['name'], $other['pair'], $other['touches']]);
        // The truth of frame 40, in picture heights.
        self::assertEqualsWithDelta([194.17 / 720, 388.29 / 720], $other['outline']['shapes'][0]['centre'], 0.03);
        $left = $this->areas()[0];
        $alone = $this->picture('result');
        $this->save(['areas' => [$left, $other]]);
        self::assertNotSame($alone, $this->picture('result'));
        self::assertSame([true, true], array_column($this->getJson("/api/shots/{$this->shot->id}")->json('progress.areas'), 'treat'));
    }

    public function testASpotIsCoveredFromBesideIt(): void
    {
        $spot = ['id' => 'l', 'name' => 'Spot', 'outline' => ['at' => 40, 'shapes' => [['id' => 's', 'kind' => 'ellipse', 'centre' => [0.7, 0.8], 'radii' => [0.012, 0.012], 'featherOut' => 0.005]]], 'live' => ['from' => 36, 'to' => 47], 'touches' => []];
        $this->save(['areas' => [$spot]]);
        [$x, $y] = $this->ofArea('cover')->assertOk()->json('offset');
        self::assertEqualsWithDelta(0.012 * 3.6, hypot($x, $y), 0.012 * 1.6);
        $before = $this->picture('result');
        $this->save(['areas' => [[...$spot, 'touches' => [['id' => 't', 'kind' => 'conceal', 'offsetX' => $x, 'offsetY' => $y]]]]]);
        self::assertNotSame($before, $this->picture('result'));
    }

    public function testScopesOfFrameAndArea(): void
    {
        foreach (['waveform' => 1, 'parade' => 3, 'vectorscope' => 1, 'histogram' => 4] as $scope => $planes) {
            foreach ([false, true] as $limited) {
                $answer = $this->postJson("/api/shots/{$this->shot->id}/scope", ['frame' => 40, 'view' => 'result', 'area' => 'l', 'height' => 180, 'scope' => $scope, 'limited' => $limited])->assertOk();
                self::assertCount($planes, $answer->json('counts'));
                self::assertCount($answer->json('columns') * $answer->json('rows'), $answer->json('counts.0'));
                $sum[$limited] = array_sum($answer->json('counts.0'));
            }
            self::assertSame(320 * 180, $sum[false]);
            self::assertGreaterThan(100, $sum[true]);
            self::assertLessThan(4000, $sum[true]);
        }
        $this->postJson("/api/shots/{$this->shot->id}/scope", ['frame' => 40, 'view' => 'result', 'height' => 180, 'scope' => 'star'])->assertStatus(422);
    }

    public function testLookUpTablesAreKeptAndMissingOnesRefused(): void
    {
        $red = "LUT_3D_SIZE 2\n" . implode("\n", ['0 0 0', '1 0 0', '0 0 0', '1 0 0', '0 0 0', '1 0 0', '0 0 0', '1 0 0']);
        $sha256 = $this->postJson('/api/cubes', ['text' => $red])->assertOk()->json('sha256');
        self::assertSame(hash('sha256', $red), $sha256);
        $this->postJson('/api/cubes', ['text' => "LUT_1D_SIZE 2\n0 0\n"])->assertStatus(422)->assertJsonPath('message', 'Line 2 of the look-up table: expected three numbers.');
        $before = $this->picture('result');
        $this->save(['assets' => ['red' => ['sha256' => $sha256, 'kind' => 'cube']], 'base' => [['id' => 'b', 'kind' => 'lut', 'file' => 'red']]]);
        self::assertNotSame($before, $this->picture('result'));
        $state = $this->getJson("/api/shots/{$this->shot->id}/recipe")->json();
        $state['recipe']['assets']['red']['sha256'] = str_repeat('0', 64);
        $this->putJson("/api/shots/{$this->shot->id}/recipe", ['base' => $state['revision'], 'label' => 'x', 'recipe' => $state['recipe']])->assertStatus(422)->assertJsonPath('pointer', '/assets/red/sha256');
    }

    public function testOtherFootageShowsThrough(): void
    {
        $this->artisan('cossel:import', ['files' => [base_path('demo/footage/gh050_leaf.webm')], '--job' => 'Treat', '--frames' => '0-5'])->assertSuccessful();
        $leaf = Shot::where('name', 'gh050_leaf')->firstOrFail()->readyFootage();
        $this->save(['assets' => ['leaf' => ['sha256' => $leaf->sha256, 'kind' => 'footage']], 'areas' => [], 'base' => [['id' => 'b', 'kind' => 'insert', 'file' => 'leaf', 'first' => -40]]]);
        $pictures = $this->app->make(BenchPictures::class);
        $recipes = $this->app->make(Recipes::class);
        $shown = $pictures->showing($this->shot->readyFootage()->file(), $recipes->recipe($this->shot->refresh()), new Wanted(40, View::Result, null, 180))->picture(40)->jpeg;
        $whole = $pictures->showing($leaf->file(), $recipes->recipe(Shot::where('name', 'gh050_leaf')->firstOrFail()), new Wanted(0, View::Original, null, 180))->picture(0)->jpeg;
        self::assertSame($whole, $shown);
    }

    public function testDecisionListsComeInAndGoOut(): void
    {
        $this->save(['base' => [['id' => 'b', 'kind' => 'cdl', 'slopeRed' => 1.25, 'saturation' => 0.9]]]);
        $file = $this->get("/api/shots/{$this->shot->id}/touches/b/cdl.ccc?frame=40")->assertOk()->getContent();
        $read = $this->postJson('/api/cdl', ['text' => $file])->assertOk()->json('corrections.0.settings');
        self::assertEquals([1.25, 0.9, 1.0], [$read['slopeRed'], $read['saturation'], $read['powerBlue']]);
        $this->postJson('/api/cdl', ['text' => '<svg/>'])->assertStatus(422);
        $this->get("/api/shots/{$this->shot->id}/touches/t/cdl.cc?frame=40")->assertStatus(422);
        $this->get("/api/shots/{$this->shot->id}/touches/nothing/cdl.cc?frame=40")->assertNotFound();
    }

    public function testEveryStartingPointMakesValidTouches(): void
    {
        $points = $this->getJson('/api/starting-points')->assertOk()->json();
        self::assertGreaterThanOrEqual(12, count($points));
        foreach ($points as $i => $point) {
            $touches = array_map(static fn(array $touch, int $k): array => ['id' => "p{$i}-{$k}", ...$touch], $point['touches'], array_keys($point['touches']));
            $this->save($point['where'] === 'frame' ? ['base' => $touches] : ['areas' => [[...$this->areas()[0], 'touches' => $touches]]]);
        }
    }

    public function testWithoutAnAreaThoseThatRideOnItAndAreLinkedToItGoOn(): void
    {
        $left = $this->areas()[0];
        $right = [...$left, 'id' => 'r', 'name' => 'Right', 'touches' => [], 'pair' => ['with' => 'l', 'linked' => true], 'motion' => ['by' => 'ride', 'on' => 'l'], 'outline' => ['at' => 40, 'shapes' => [['id' => 'a', 'kind' => 'area', 'join' => 'add', 'of' => 'l'], ['id' => 'c', 'kind' => 'ellipse', 'centre' => [0.27, 0.54], 'radii' => [0.09, 0.09]]]]];
        $this->save(['areas' => [$left, $right]]);
        self::assertNotSame($this->picture('result'), $this->picture('without'));
        self::assertNotSame($this->picture('original'), $this->picture('without'));
        $this->postJson("/api/shots/{$this->shot->id}/picture", ['frame' => 40, 'view' => 'result', 'area' => 'r', 'height' => 180, 'standing' => 1])->assertOk();
    }

    /** @return list<array<string, mixed>> */
    private function areas(): array
    {
        return $this->getJson("/api/shots/{$this->shot->id}/recipe")->json('recipe.areas');
    }

    private function picture(string $view): string
    {
        return (string) $this->postJson("/api/shots/{$this->shot->id}/picture", ['frame' => 40, 'view' => $view, 'area' => in_array($view, ['result', 'original'], true) ? null : 'l', 'height' => 180])->assertOk()->getContent();
    }
}
