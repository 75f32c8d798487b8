<?php

declare(strict_types=1);

namespace Tests\App;

use App\Faces\CannotFindFaces;
use App\Faces\Faces;
use App\Faces\StillMeasuring;
use App\Faces\TurnedFaces;
use App\Footage\FootageFile;
use App\Footage\FrameCache;
use App\Footage\Probe;
use App\Models\Follow;
use Cossel\Core\Face\Descriptor;
use Cossel\Core\Propose\Landmarks;
use Illuminate\Contracts\Debug\ExceptionHandler;
use Illuminate\Support\Facades\Queue;
use Symfony\Component\Process\Process;

/** Faces are found by a process beside the server, on real footage. */
final class FacesTest extends AppTestCase
{
    private function footage(string $path): FootageFile
    {
        return new FootageFile($path, (string) hash_file('sha256', $path), app(Probe::class)->read($path), basename($path));
    }

    /** The demo's laugh, with a filter. */
    private static function laugh(string $filter): string
    {
        $path = sys_get_temp_dir() . '/faces_' . md5($filter) . '.webm';
        (new Process(['ffmpeg', '-v', 'error', '-y', '-ss', '1.5', '-i', base_path('demo/footage/gh020_laugh.webm'), '-vf', $filter, '-frames:v', '2', '-c:v', 'libvpx-vp9', '-crf', '20', $path]))->mustRun();

        return $path;
    }

    /** How far the eyes found are from the truth, of their distance; null where not exactly one face was found. */
    private static function miss(array $faces, array $left, array $right): ?float
    {
        if (count($faces) !== 1 || !$faces[0] instanceof Landmarks) {
            return null;
        }
        [$one, $other] = [Landmarks::middle($faces[0]->lids(true)), Landmarks::middle($faces[0]->lids(false))];
        $apart = hypot($left[0] - $right[0], $left[1] - $right[1]);
        $to = static fn(array $a, array $b): float => hypot($a[0] - $b[0], $a[1] - $b[1]);

        return min(max($to($one, $left), $to($other, $right)), max($to($one, $right), $to($other, $left))) / $apart;
    }

    public function test_eyes_are_where_they_are_upright_and_tilted(): void
    {
        $truth = json_decode((string) file_get_contents(base_path('demo/truth/gh020_laugh.truth.json')), true, flags: JSON_THROW_ON_ERROR);
        $of = static fn(int $frame, string $eye): array => [$truth['frame'][$frame][$eye]['pupil']['x'] / 720, $truth['frame'][$frame][$eye]['pupil']['y'] / 720];
        $faces = app(TurnedFaces::class)->on($this->footage(base_path('demo/footage/gh020_laugh.webm')), [36, 72]);
        self::assertSame([36, 72], array_keys($faces));
        foreach ($faces as $frame => $found) {
            self::assertLessThan(0.12, self::miss($found, $of($frame, 'eye_l'), $of($frame, 'eye_r')) ?? 1.0, "frame {$frame}");
        }
        // Lying on a shoulder: a quarter turn to the right.
        $turned = static fn(array $p): array => [(1 - $p[1]) * 720 / 1280, $p[0] * 720 / 1280];
        $lying = app(TurnedFaces::class)->on($this->footage(self::laugh('transpose=clock')), [0])[0];
        self::assertLessThan(0.15, self::miss($lying, $turned($of(36, 'eye_l')), $turned($of(36, 'eye_r'))) ?? 1.0);
    }

    public function test_nobody_is_found_where_nobody_is(): void
    {
        self::assertSame([0 => []], app(TurnedFaces::class)->on($this->footage(self::laugh('boxblur=60')), [0]));
    }

    public function test_a_finder_that_does_not_work_is_told(): void
    {
        $footage = $this->footage(base_path('demo/footage/gh020_laugh.webm'));
        app(FrameCache::class)->prepare($footage, 36, 36, 540);
        $path = getenv('PATH');
        putenv('PATH=/nowhere');
        try {
            app(TurnedFaces::class)->on($footage, [36]);
            self::fail('It was found without a finder.');
        } catch (CannotFindFaces $e) {
            self::assertStringStartsWith('The finder of faces did not work', $e->getMessage());
        } finally {
            putenv("PATH={$path}");
        }
    }

    public function test_faces_are_measured_once_and_kept_by_the_footage(): void
    {
        $footage = $this->footage(self::laugh('scale=640:360'));
        $truth = json_decode((string) file_get_contents(base_path('demo/truth/gh020_laugh.truth.json')), true, flags: JSON_THROW_ON_ERROR)['frame'][36];
        // Whoever no longer wants them is told after each frame how far it is, and heard.
        $told = [];
        app(Faces::class)->through($footage, 0, 1, static function (int ...$counts) use (&$told): bool {
            $told[] = $counts;

            return false;
        });
        self::assertSame([[1, 2]], $told);
        self::assertSame([1], app(Faces::class)->missing($footage, 0, 1, 10));
        $faces = app(Faces::class)->through($footage, 0, 1);
        self::assertCount(1, $faces->on(0));
        self::assertTrue($faces->on(0)[0]->isSure());
        foreach (['eye_l' => true, 'eye_r' => false] as $eye => $left) {
            [$x, $y] = $faces->on(0)[0]->iris($left);
            self::assertLessThan(0.012, hypot($x - $truth[$eye]['pupil']['x'] / 720, $y - $truth[$eye]['pupil']['y'] / 720), $eye);
        }
        $again = app(Faces::class)->through($footage, 0, 1, static fn(): bool => self::fail('It was measured again.'));
        self::assertEquals($faces->on(1)[0]->bytes(), $again->on(1)[0]->bytes());
        self::assertSame(0, $again->nearest(0));
        // The man is seen from his hair to the lower edge of the picture, and nothing of the room.
        $people = app(Faces::class)->people($footage, 1, 1);
        self::assertSame([455, 256], [$people->across, $people->down]);
        $at = static fn(float $x, float $y): int => $people->cells[(int) ($y * 256) * 455 + (int) ($x * 256)];
        [$x, $y] = $faces->on(1)[0]->middle();
        self::assertGreaterThan(230, min($at($x, $y), $at($x, $y - 0.2), $at($x, 0.95)));
        self::assertLessThan(25, max($at(0.05, 0.05), $at(1.7, 0.05), $at(0.05, 0.5)));

        // What a killed process left half written is measured again.
        $file = (glob(config('cossel.cache.path') . "/faces/{$footage->sha256}.*.faces") ?: [])[0];
        file_put_contents($file, substr((string) file_get_contents($file), 0, -100));
        self::assertSame([1], app(Faces::class)->missing($footage, 0, 1, 10));
        self::assertCount(1, app(Faces::class)->through($footage, 0, 1)->on(1));
        self::assertSame($people->cells, app(Faces::class)->people($footage, 1, 1)->cells);
        // Where frames stand tells nothing when what it tells of is gone.
        unlink($file);
        self::assertSame([0, 1], app(Faces::class)->missing($footage, 0, 1, 10));
        app(Faces::class)->through($footage, 0, 1);
        self::assertSame($people->cells, app(Faces::class)->people($footage, 1, 1)->cells);
        self::assertSame([], app(Faces::class)->missing($footage, 0, 1, 10));
        self::assertSame([], app(Faces::class)->missing($footage, 0, 1, 10));
        app(Faces::class)->forget($footage->sha256);
        self::assertSame([0, 1], app(Faces::class)->missing($footage, 0, 1, 10));
    }

    public function test_people_are_known_again_by_their_faces(): void
    {
        $faces = app(Faces::class);
        $of = fn(string $shot, int $frame): ?Descriptor => $faces->on($this->footage(base_path("demo/footage/{$shot}.webm")), $frame)[0]->descriptor;
        // One who laughs, half a second apart; another.
        [$one, $again, $other] = [$of('gh020_laugh', 36), $of('gh020_laugh', 60), $of('gh010_backlit', 40)];
        self::assertNotNull($one);
        self::assertNotNull($again);
        self::assertNotNull($other);
        self::assertLessThan(0.6, $one->apart($again));
        self::assertGreaterThan(1.0, $one->apart($other));
        // Of frames in a row only some tell it.
        $row = $faces->through($this->footage(self::laugh('scale=640:360')), 0, 1);
        self::assertSame([true, false], [$row->on(0)[0]->descriptor !== null, $row->on(1)[0]->descriptor !== null]);
    }

    public function test_finding_tells_where_somebody_and_their_teeth_are_seen(): void
    {
        // Nobody on the first frame, somebody who smiles on the second.
        $shot = $this->shot(self::laugh("boxblur=60:enable='eq(n,0)'"));
        $footage = $shot->readyFootage()->file();
        $this->postJson("/api/shots/{$shot->id}/person", ['frame' => 0])->assertOk()->assertExactJson(['people' => [], 'most' => 8, 'near' => null]);
        app(Faces::class)->through($footage, 0, 1);
        $this->postJson("/api/shots/{$shot->id}/person", ['frame' => 0])->assertOk()->assertJsonPath('near', 1);
        $found = $this->postJson("/api/shots/{$shot->id}/person", ['frame' => 1])->assertOk()->assertJsonPath('near', null)->assertJsonPath('people.0.best.teeth', 1);
        self::assertContains('Teeth', array_column($found->json('people.0.areas'), 'name'));
    }

    public function test_what_is_shut_here_is_outlined_where_it_is_seen_and_followed_from_there(): void
    {
        // The mouth is closed on the first frame, and open on the second.
        $clip = "{$this->folder}/smile.webm";
        $this->ffmpeg(['-i', base_path('demo/footage/mouth_kei.webm'), '-vf', 'select=eq(n\\,0)+eq(n\\,36),setpts=N/24/TB', '-r', '24', '-c:v', 'libvpx-vp9', '-crf', '20', '-y', $clip]);
        $shot = $this->shot($clip);
        $find = fn(): array => $this->postJson("/api/shots/{$shot->id}/person", ['frame' => 0])->assertOk()->json('people.0');
        $teeth = static fn(array $person): array => array_values(array_filter($person['areas'], static fn(array $area): bool => $area['part'] === 'teeth'))[0];
        $before = $find();
        self::assertSame([0, true], [$teeth($before)['outline']['at'], isset($before['doubts'][$teeth($before)['id']])]);
        app(Faces::class)->through($shot->readyFootage()->file(), 0, 1);
        $after = $find();
        self::assertSame([1, false, 1], [$teeth($after)['outline']['at'], isset($after['doubts'][$teeth($after)['id']]), $after['best']['teeth']]);
        $face = array_values(array_filter($after['areas'], static fn(array $area): bool => $area['part'] === 'face'))[0];
        self::assertSame([0, $face['id']], [$face['outline']['at'], $teeth($after)['motion']['on']]);
        // The head is followed from here, the teeth from there.
        $areas = array_values(array_filter($after['areas'], static fn(array $area): bool => in_array($area['part'], ['face', 'lips', 'teeth'], true)));
        $this->putJson("/api/shots/{$shot->id}/recipe", ['base' => $shot->refresh()->revision, 'label' => 'A person', 'recipe' => [...$this->recipe($shot), 'areas' => $areas]])->assertOk();
        Queue::fake();
        $this->postJson("/api/shots/{$shot->id}/follows/person", ['area' => $face['id'], 'start' => 0, 'from' => 0, 'to' => 1])->assertSuccessful();
        self::assertSame([$face['id'] => 0, $teeth($after)['id'] => 1], array_intersect_key(Follow::pluck('start', 'area')->all(), [$face['id'] => 0, $teeth($after)['id'] => 1]));
    }

    public function test_people_are_treated_where_they_are_seen_at_the_bench_and_in_what_is_written(): void
    {
        $clip = self::laugh('scale=640:360');
        $shot = $this->shot($clip);
        ['recipe' => $recipe, 'revision' => $base] = $this->getJson("/api/shots/{$shot->id}/recipe")->json();
        $recipe['areas'] = [[
            'id' => 'a', 'name' => 'Whole person', 'part' => 'person', 'live' => ['from' => 0, 'to' => 1],
            'outline' => ['at' => 0, 'shapes' => [['id' => 's', 'kind' => 'people', 'place' => [0.88, 0.5]]]],
            'touches' => [['id' => 't', 'kind' => 'exposure', 'stops' => -1]],
        ]];
        $this->putJson("/api/shots/{$shot->id}/recipe", ['base' => $base, 'label' => 'Darker', 'recipe' => $recipe])->assertOk();
        $light = static fn(\GdImage $image, float $x, float $y): int => (imagecolorat($image, (int) ($x * 360), (int) ($y * 360)) >> 8) & 0xFF;
        // Nothing was measured before: it is as it is wanted.
        $matte = $this->postJson("/api/shots/{$shot->id}/picture", ['frame' => 1, 'view' => 'matte', 'area' => 'a', 'height' => 360], ['Accept' => 'image/jpeg'])->assertOk();
        $seen = imagecreatefromstring((string) $matte->getContent()) ?: self::fail('no picture');
        self::assertGreaterThan(245, min($light($seen, 0.88, 0.5), $light($seen, 0.88, 0.2), $light($seen, 0.88, 0.97)));
        self::assertLessThan(10, max($light($seen, 0.1, 0.1), $light($seen, 1.7, 0.1), $light($seen, 0.05, 0.5)));

        // Who is who is known of the whole shot or not at all; what is asked again meanwhile is measured a piece at a time.
        $long = $this->footage($this->film('long.mkv', ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p'], '96x64', 60));
        for ($k = 0, $told = []; $k < 3; ++$k) {
            try {
                self::assertNull(app(Faces::class)->places($long, 0, 59, [0.5, 0.5], 3));
                $told[] = 'nobody';
            } catch (StillMeasuring $e) {
                $told[] = $e->getMessage();
                self::assertSame('1', $this->app->make(ExceptionHandler::class)->render(request(), $e)->headers->get('Retry-After'));
            }
        }
        self::assertSame(['Who is who is known once the faces of all frames are measured: 24 of 60 are.', 'Who is who is known once the faces of all frames are measured: 48 of 60 are.', 'nobody'], $told);

        file_put_contents("{$this->folder}/recipe.json", json_encode($recipe));
        $this->artisan('cossel:process', ['--footage' => $clip, '--recipe' => "{$this->folder}/recipe.json", '--out' => "{$this->folder}/out.mkv", '--workers' => 1])->assertSuccessful();
        [$was, $is] = array_map(fn(string $file): \GdImage => imagecreatefromstring($this->ffmpeg(['-i', $file, '-vf', 'select=eq(n\\,1)', '-frames:v', '1', '-c:v', 'png', '-f', 'image2pipe', '-'])) ?: self::fail($file), [$clip, "{$this->folder}/out.mkv"]);
        foreach ([[0.88, 0.5], [0.88, 0.97]] as $at) {
            self::assertEqualsWithDelta(0.735, $light($is, ...$at) / $light($was, ...$at), 0.04);
        }
        foreach ([[0.1, 0.1], [1.7, 0.1], [0.05, 0.5]] as $at) {
            self::assertEqualsWithDelta($light($was, ...$at), $light($is, ...$at), 3);
        }
    }

    public function test_faces_are_measured_ahead_a_run_at_a_time_once_frames_are_there(): void
    {
        config(['cossel.faces_ahead' => true]);
        $shot = $this->shot(self::laugh('scale=320:180'));
        $missing = static fn(): array => app(Faces::class)->missing($shot->readyFootage()->file(), $shot->from, $shot->to, 10);
        self::assertSame([], $missing());
        // What was cleared away is measured again once somebody opens the shot.
        app(Faces::class)->empty();
        self::assertCount(2, $missing());
        $this->getJson("/api/shots/{$shot->id}")->assertOk();
        self::assertSame([], $missing());
    }

    public function test_nobody_is_measured_where_nobody_is_and_what_cannot_be_measured_is_told(): void
    {
        $footage = $this->footage(self::laugh('boxblur=60'));
        self::assertSame([], app(Faces::class)->on($footage, 0));
        self::assertNull(app(Faces::class)->known($footage, 0, 1)->nearest(0));
        $path = getenv('PATH');
        app(FrameCache::class)->prepare($footage, 1, 1, 540);
        putenv('PATH=/nowhere');
        try {
            app(Faces::class)->on($footage, 1);
            self::fail('It was measured without a meter.');
        } catch (CannotFindFaces $e) {
            self::assertStringStartsWith('Faces could not be measured', $e->getMessage());
        } finally {
            putenv("PATH={$path}");
        }
    }
}
