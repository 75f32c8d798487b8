<?php

declare(strict_types=1);

namespace Tests\App;

use App\Bundles\BadBundle;
use App\Bundles\BundleReader;
use App\Bundles\BundleWriter;
use App\Models\Footage;
use App\Models\Job;
use App\Models\Revision;
use App\Models\Shot;
use App\Models\ShotState;
use App\Models\Upload;
use App\Treatment\Tracks;
use Cossel\Core\Motion\Track;
use Cossel\Core\Recipe\Model;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\File;
use PHPUnit\Framework\Attributes\DataProvider;

/** Jobs moved to other installations as one file: the same pixels there, nothing twice, and nothing that does not belong. */
final class BundleTest extends AppTestCase
{
    private string $bundle;

    /** A job of a film and a sequence, with a look-up table, a track, a version, notes and a person. */
    private function job(): Job
    {
        $shot = $this->shot($this->film('gh010.mkv', ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p'], '96x64', 8));
        $cube = "TITLE \"warm\"\nLUT_3D_SIZE 2\n0 0 0\n1 0 0\n0 1 0\n1 1 0\n0 0 0.8\n1 0 0.8\n0 1 0.8\n1 1 0.8\n";
        $sha256 = $this->postJson('/api/cubes', ['text' => $cube])->assertOk()->json('sha256');
        $track = app(Tracks::class)->keep(Track::beginning(0, Model::Similarity));
        $recipe = $this->recipe($shot);
        $recipe['assets'] = ['warm' => ['sha256' => $sha256, 'kind' => 'cube']];
        $recipe['base'] = [['id' => 'l', 'kind' => 'lut', 'file' => 'warm']];
        $recipe['areas'] = [['id' => 'a', 'name' => 'Face', 'person' => 'ione-marchetti', 'outline' => ['at' => 0, 'shapes' => [['id' => 's', 'kind' => 'ellipse', 'centre' => [0.75, 0.5], 'radii' => [0.2, 0.2]]]], 'motion' => ['by' => 'follow', 'start' => 0, 'span' => [0, 7], 'model' => 'similarity', 'track' => ['sha256' => $track]], 'live' => ['from' => 0, 'to' => 7], 'touches' => [['id' => 't', 'kind' => 'exposure', 'stops' => 1]]]];
        $this->postJson("/api/jobs/{$shot->job_id}/people", ['name' => 'Ione Marchetti'])->assertSuccessful();
        $this->putJson("/api/shots/{$shot->id}/recipe", ['base' => 1, 'label' => 'Treat', 'recipe' => $recipe])->assertOk();
        $this->postJson("/api/shots/{$shot->id}/versions", ['name' => 'First'])->assertSuccessful();
        $recipe['finish'] = [['id' => 'f', 'kind' => 'legal']];
        $this->putJson("/api/shots/{$shot->id}/recipe", ['base' => 2, 'label' => 'Legal', 'recipe' => $recipe])->assertOk();
        $this->postJson("/api/shots/{$shot->id}/notes", ['frame' => 3, 'text' => 'Softer'])->assertSuccessful();
        $this->postJson("/api/shots/{$shot->id}/treatments", ['title' => 'Warm', 'areas' => [], 'base' => true, 'finish' => false])->assertOk();
        $this->postJson("/api/jobs/{$shot->job_id}/presets", ['title' => 'Reviews', 'format' => 'vp9', 'handles' => true, 'name' => '{shot}'])->assertOk();
        mkdir("{$this->folder}/pictures");
        $this->ffmpeg(['-f', 'lavfi', '-i', 'testsrc2=size=64x48:rate=24', '-frames:v', '4', "{$this->folder}/pictures/f%04d.png"]);
        $zip = new \ZipArchive();
        $zip->open("{$this->folder}/gh020.zip", \ZipArchive::CREATE);
        array_map(static fn(string $f) => $zip->addFile($f, basename($f)), glob("{$this->folder}/pictures/*") ?: []);
        $zip->close();
        $other = $this->shot("{$this->folder}/gh020.zip");
        $this->putJson("/api/shots/{$other->id}/recipe", ['base' => 1, 'label' => 'Treat', 'recipe' => ['base' => [['id' => 'b', 'kind' => 'exposure', 'stops' => 1]]] + $this->recipe($other)])->assertOk();

        return $shot->job->refresh();
    }

    private function written(Job $job, bool $footage = true): string
    {
        app(BundleWriter::class)->write($job, null, $footage, $this->bundle = "{$this->folder}/job.bundle.zip");

        return $this->bundle;
    }

    /** @return array<string, string> digests of pictures by shot */
    private function pictures(): array
    {
        $of = fn(Shot $shot): string => md5((string) $this->postJson("/api/shots/{$shot->id}/picture", ['frame' => 2, 'view' => 'result', 'height' => $shot->readyFootage()->info()->height])->assertOk()->getContent());

        return Shot::orderBy('name')->get()->mapWithKeys(static fn(Shot $shot): array => [$shot->name => $of($shot)])->all();
    }

    /** As a machine that has never seen any of it. */
    private function elsewhere(): void
    {
        array_map(static fn(string $table) => DB::table($table)->delete(), ['versions', 'revisions', 'frame_notes', 'judgings', 'ticks', 'carries', 'uploads', 'shots', 'people', 'presets', 'treatments', 'jobs', 'footage']);
        File::cleanDirectory("{$this->folder}/data/tracks");
        File::cleanDirectory("{$this->folder}/data/assets");
        File::cleanDirectory("{$this->folder}/data/footage");
        File::deleteDirectory((string) config('cossel.cache.path'));
        $this->app->forgetScopedInstances();
    }

    public function test_a_job_is_the_same_elsewhere_and_nothing_comes_in_twice(): void
    {
        $job = $this->job();
        $pictures = $this->pictures();
        $file = $this->written($job);
        $this->elsewhere();
        self::assertSame(0, Shot::count());
        [$there, $told] = app(BundleReader::class)->read($file);
        self::assertSame(['gh010 came in.', 'gh020 came in.'], $told);
        self::assertSame($pictures, $this->pictures());
        $shot = Shot::where('name', 'gh010')->sole();
        self::assertSame([['First'], ['Softer'], ['Ione Marchetti'], ['Reviews'], ['Warm']], [$shot->versions->pluck('name')->all(), $shot->frameNotes->pluck('text')->all(), $there->people->pluck('name')->all(), $there->presets->pluck('name')->all(), $there->treatments->pluck('name')->all()]);
        self::assertSame([], json_decode((string) Revision::where('shot_id', $shot->id)->where('number', $shot->versions[0]->number)->sole()->recipe, true)['finish']);
        $before = [Shot::count(), Revision::count(), Footage::count(), Job::count(), $shot->revision];
        [$again, $told] = app(BundleReader::class)->read($file);
        self::assertSame([['Everything of it was here already.'], $there->id, $before], [$told, $again->id, [Shot::count(), Revision::count(), Footage::count(), Job::count(), $shot->refresh()->revision]]);
        // What was done there meanwhile stays in the history; the bundle is one step more.
        $this->putJson("/api/shots/{$shot->id}/recipe", ['base' => $shot->revision, 'label' => 'Own', 'recipe' => ['base' => []] + $this->recipe($shot)])->assertOk();
        self::assertSame(['gh010 was brought up to the bundle.'], app(BundleReader::class)->read($file)[1]);
        self::assertSame(['From a bundle', 'Own'], array_slice(array_column($this->getJson("/api/shots/{$shot->id}/history")->json(), 'label'), 0, 2));
    }

    public function test_what_was_written_meanwhile_stays_beside_what_comes(): void
    {
        $file = $this->written($this->job());
        $shot = Shot::where('name', 'gh010')->sole();
        $shot->update(['name' => 'first look', 'notes' => 'Ione asked for less red']);
        $shot->job->presets()->sole()->update(['order' => ['format' => 'exr']]);
        $warm = $shot->job->treatments()->sole();
        $own = ['base' => []] + json_decode($warm->recipe, true);
        $warm->update(['recipe' => json_encode($own)]);
        $shot->job->presets()->create(['name' => 'Reviews (2)', 'order' => ['format' => 'png']]);
        self::assertSame(['gh010 was brought up to the bundle; it was called first look here.'], app(BundleReader::class)->read($file)[1]);
        self::assertSame(['Everything of it was here already.'], app(BundleReader::class)->read($file)[1]);
        $job = $shot->job->refresh();
        self::assertSame(['gh010', 'Ione asked for less red'], [$shot->refresh()->name, $shot->notes]);
        self::assertSame(['Reviews' => 'exr', 'Reviews (2)' => 'png', 'Reviews (3)' => 'vp9'], $job->presets()->pluck('order', 'name')->map(static fn(array $order): string => $order['format'])->all());
        self::assertSame([[], 1], [json_decode($job->treatments()->where('name', 'Warm')->sole()->recipe, true)['base'], count(json_decode($job->treatments()->where('name', 'Warm (2)')->sole()->recipe, true)['base'])]);
        self::assertSame(2, $job->treatments()->count());
    }

    public function test_without_footage_shots_wait_for_it_and_are_whole_when_it_comes(): void
    {
        $job = $this->job();
        Shot::where('name', 'gh020')->sole()->delete();
        $pictures = $this->pictures();
        $file = $this->written($job, false);
        $film = "{$this->folder}/kept.mkv";
        copy("{$this->folder}/gh010.mkv", $film);
        $this->elsewhere();
        [$there, $told] = app(BundleReader::class)->read($file);
        self::assertSame(['gh010 came in; it asks for gh010.mkv.'], $told);
        self::assertSame([ShotState::Missing, 'Its footage is not here: bring in gh010.mkv.'], [Shot::sole()->state, Shot::sole()->error]);
        $footage = app(\App\Footage\Intake::class)->take($film, 'another name.mkv', false);
        app(\App\Cuts\Cuts::class)->supply($there, $footage);
        self::assertSame([ShotState::Ready, null], [Shot::sole()->state, Shot::sole()->wants]);
        self::assertSame($pictures, $this->pictures());
    }

    public function test_it_is_sent_and_fetched_through_the_application(): void
    {
        $job = $this->job();
        $answer = $this->get("/api/jobs/{$job->id}/bundle?footage=1")->assertOk()->assertDownload('test.bundle.zip');
        $bytes = (string) file_get_contents($answer->baseResponse->getFile()->getPathname());
        $this->elsewhere();
        $id = $this->postJson('/api/uploads', ['name' => 'test.bundle.zip', 'size' => strlen($bytes)])->assertSuccessful()->json('id');
        $this->postJson("/api/uploads/{$id}/bundle")->assertStatus(409);
        $this->call('PUT', "/api/uploads/{$id}?offset=0", content: $bytes)->assertOk();
        $this->postJson("/api/uploads/{$id}/shot")->assertStatus(409);
        $this->postJson("/api/uploads/{$id}/bundle")->assertOk();
        $told = $this->postJson("/api/uploads/{$id}/bundle")->assertOk()->json('told');
        self::assertSame(['done', Job::sole()->id, 2], [$told['state'], $told['job'], count($told['told'])]);
        self::assertFileDoesNotExist(Upload::sole()->path());
    }

    /** @return iterable<string, array{\Closure(\ZipArchive, array<string, mixed>): mixed, string}> */
    public static function hostile(): iterable
    {
        $manifest = static fn(\Closure $change): \Closure => static fn(\ZipArchive $zip, array $m): bool => $zip->addFromString('bundle.json', (string) json_encode($change($m)));
        yield 'another format' => [$manifest(static fn(array $m): array => ['cossel' => 'bundle/9'] + $m), 'bundle.json /cossel: expected bundle/1, found "bundle/9"'];
        yield 'no JSON' => [static fn(\ZipArchive $zip): bool => $zip->addFromString('bundle.json', '{"cossel":'), 'bundle.json: this is no JSON (syntax error)'];
        $put = static fn(array $change): \Closure => $manifest(static fn(array $m): array => array_replace_recursive($m, $change));
        yield 'a preset with a way out' => [$put(['presets' => [['order' => ['name' => '../../../../etc/{job}']]]]), 'bundle.json /presets/0/order: a name is made of letters, digits, spaces, dots, dashes and underscores.'];
        yield 'a preset of no height' => [$put(['presets' => [['order' => ['height' => -1]]]]), 'bundle.json /presets/0/order: '];
        yield 'a limit below nothing' => [$put(['shots' => [['limits' => ['drift' => -5]]]]), 'bundle.json /shots/0/limits/drift: expected a limit of 0 to'];
        yield 'a limit of nothing known' => [$put(['shots' => [['limits' => ['rust' => 1]]]]), 'bundle.json /shots/0/limits/rust: expected the name of a tell-tale.'];
        yield 'a note far beyond the shot' => [$put(['shots' => [['frameNotes' => [['frame' => 10 ** 15]]]]]), 'bundle.json /shots/0/frameNotes/0/frame: expected a frame of the shot, 0 to 7.'];
        yield 'a span far beyond all footage' => [$put(['shots' => [['span' => [0, 10 ** 15]]]]), 'bundle.json /shots/0/span: expected a first and a last frame, at most 19999.'];
        yield 'a version of a long name' => [$put(['shots' => [['versions' => [['name' => str_repeat('x', 61)]]]]]), 'bundle.json /shots/0/versions/0/name: expected a text of at most 60 letters.'];
        yield 'a cut with handles below nothing' => [$put(['shots' => [['cut' => ['number' => 1, 'name' => 'x', 'file' => null, 'reel' => null, 'in' => 0, 'out' => 5, 'at' => 0, 'start' => null, 'told' => [], 'rate' => '24/1', 'handles' => -5, 'retired' => false]]]]), 'its place in the cut cannot be read'];
        yield 'more notes than there may be' => [$manifest(static function (array $m): array {
            $m['shots'][0]['frameNotes'] = array_fill(0, 10_001, ['frame' => 1, 'text' => 'x', 'resolved' => false]);

            return $m;
        }), 'bundle.json /shots/0/frameNotes: expected a list of at most 10000.'];
        yield 'brackets without end' => [static fn(\ZipArchive $zip): bool => $zip->addFromString('bundle.json', '{"cossel":"bundle/1","x":[' . str_repeat('[],', 1_100_000) . '[]]}'), 'bundle.json: it holds more than 1000000 lists or 5000000 values.'];
        yield 'brackets in brackets' => [static fn(\ZipArchive $zip): bool => $zip->addFromString('bundle.json', str_repeat('[', 500_000)), 'bundle.json: it is nested deeper than 128.'];
        yield 'a way out' => [static fn(\ZipArchive $zip): bool => $zip->addFromString('../../evil.php', '<?php'), '../../evil.php: this does not belong in a bundle'];
        yield 'a program' => [static fn(\ZipArchive $zip): bool => $zip->addFromString('footage/run.sh', 'x'), 'this does not belong in a bundle'];
        yield 'a track under a false name' => [static fn(\ZipArchive $zip): bool => $zip->addFromString('tracks/' . str_repeat('ab', 32) . '.json', '{}'), 'its content is not what its name says'];
        yield 'a track that is none' => [static fn(\ZipArchive $zip): bool => $zip->addFromString('tracks/' . hash('sha256', '{}') . '.json', '{}'), 'track/1'];
        yield 'footage that is none' => [static fn(\ZipArchive $zip): bool => $zip->addFromString('footage/' . str_repeat('ab', 32), "#EXTM3U\nfile:///etc/passwd\n"), 'cannot be read as video'];
        yield 'a broken recipe' => [$manifest(static fn(array $m): array => array_replace_recursive($m, ['shots' => [['recipe' => ['areas' => [['strength' => 'much']]]]]])), 'shot 0: /areas/0/strength'];
        yield 'another footage' => [$manifest(static fn(array $m): array => array_replace_recursive($m, ['shots' => [['footage' => str_repeat('ab', 32)]]])), 'its recipe is for other footage'];
        yield 'a span out of reach' => [$manifest(static fn(array $m): array => array_replace_recursive($m, ['shots' => [['span' => [0, 700]]]])), 'not within the footage'];
        yield 'a track left out' => [static function (\ZipArchive $zip): void {
            for ($i = $zip->numFiles - 1; $i >= 0; --$i) {
                str_starts_with((string) $zip->getNameIndex($i), 'tracks/') && $zip->deleteIndex($i);
            }
        }, 'the track '];
        yield 'a name that is none' => [$manifest(static fn(array $m): array => array_replace_recursive($m, ['shots' => [['name' => ['x']]]])), 'bundle.json'];
        yield 'a cut that is none' => [$manifest(static fn(array $m): array => array_replace_recursive($m, ['shots' => [['cut' => ['number' => 'x']]]])), 'its place in the cut cannot be read'];
    }

    /** @param \Closure(\ZipArchive, array<string, mixed>): mixed $spoil */
    #[DataProvider('hostile')]
    public function test_what_does_not_belong_is_refused_and_nothing_of_it_kept(\Closure $spoil, string $says): void
    {
        $file = $this->written($this->job());
        $zip = new \ZipArchive();
        $zip->open($file);
        $spoil($zip, json_decode((string) $zip->getFromName('bundle.json'), true));
        $zip->close();
        $this->elsewhere();
        try {
            app(BundleReader::class)->read($file);
            self::fail('It was taken in.');
        } catch (BadBundle $reason) {
            self::assertStringContainsString($says, $reason->getMessage());
        }
        self::assertSame([0, 0], [Job::count(), Shot::count()]);
        self::assertSame([], glob("{$this->folder}/data/bundles/*") ?: []);
    }
}
