<?php

declare(strict_types=1);

namespace Tests\App;

use App\Footage\Intake;
use App\Footage\UnreadableFootage;
use App\Models\Carry;
use App\Models\Job;
use App\Models\Shot;
use Illuminate\Support\Facades\Artisan;
use PHPUnit\Framework\Attributes\Group;

/** A job worked on without the interface: exit codes, and what is told as JSON. */
final class CommandsTest extends AppTestCase
{
    private Shot $from;
    private Shot $to;

    protected function setUp(): void
    {
        parent::setUp();
        $this->from = $this->shot($this->film('gh010.mkv', ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p'], '96x64', 8));
        $this->to = $this->shot($this->film('gh020.mkv', ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p'], '96x64', 10));
        $this->putJson("/api/shots/{$this->from->id}/recipe", ['base' => 1, 'label' => 'Treat', 'recipe' => ['base' => [['id' => 'b', 'kind' => 'exposure', 'stops' => 1]]] + $this->recipe($this->from)])->assertOk();
    }

    /**
     * @param array<string, mixed> $arguments
     *
     * @return array{int, mixed} the exit code, and what was told
     */
    private function told(string $command, array $arguments): array
    {
        $exit = Artisan::call("cossel:{$command}", [...$arguments, '--json' => true]);

        return [$exit, json_decode(Artisan::output(), true)];
    }

    public function test_treatments_are_carried_by_their_shot_their_name_or_their_file(): void
    {
        [$exit, $told] = $this->told('carry', ['shots' => ['gh020'], '--job' => 'Test', '--from' => 'gh010', '--base' => true]);
        self::assertSame([0, 'gh020', 'taken'], [$exit, $told[0]['shot'], $told[0]['state']]);
        self::assertSame('exposure', $this->recipe($this->to)['base'][0]['kind']);
        $this->postJson("/api/shots/{$this->to->id}/undo", ['base' => $this->to->refresh()->revision])->assertOk();
        $id = $this->postJson("/api/shots/{$this->from->id}/treatments", ['title' => 'Bright', 'areas' => [], 'base' => true, 'finish' => false])->assertOk()->json('id');
        file_put_contents("{$this->folder}/bright.recipe.json", (string) $this->get("/api/jobs/{$this->from->job_id}/treatments/{$id}")->getContent());
        foreach (['Bright', "{$this->folder}/bright.recipe.json"] as $treatment) {
            [$exit, $told] = $this->told('carry', ['shots' => ['gh020'], '--job' => 'Test', '--treatment' => $treatment, '--propose' => true]);
            self::assertSame([0, 'proposed'], [$exit, $told[0]['state']]);
        }
        self::assertSame([], $this->recipe($this->to)['base']);
        self::assertSame(1, $this->told('carry', ['shots' => ['gh020'], '--job' => 'Test', '--from' => 'gh010'])[0]);
        foreach ([['--from' => 'gh090'], ['--from' => 'gh010', '--area' => ['Nose']], ['--treatment' => 'none'], []] as $wrong) {
            self::assertSame(2, Artisan::call('cossel:carry', ['shots' => ['gh020'], '--job' => 'Test', ...$wrong]));
        }
        self::assertSame(2, Artisan::call('cossel:carry', ['shots' => ['gh020'], '--from' => 'gh010']));
    }

    #[Group('slow')]
    public function test_all_that_is_treated_of_one_person_is_carried_where_nothing_is_named(): void
    {
        $area = static fn(string $id, ?string $person): array => ['id' => $id, 'name' => $id, 'person' => $person, 'outline' => ['at' => 0, 'shapes' => [['id' => "s{$id}", 'kind' => 'ellipse', 'centre' => [0.7, 0.5], 'radii' => [0.2, 0.2]]]], 'live' => ['from' => 0, 'to' => 7], 'touches' => [['id' => "t{$id}", 'kind' => 'exposure', 'stops' => 1]]];
        $put = fn(array ...$areas) => $this->putJson("/api/shots/{$this->from->id}/recipe", ['base' => $this->from->refresh()->revision, 'label' => 'Areas', 'recipe' => ['areas' => $areas] + $this->recipe($this->from)])->assertOk();
        foreach (['maren' => 'Maren Oduya', 'tove' => 'Tove Lindh'] as $slug => $name) {
            $this->from->job->people()->create(['slug' => $slug, 'name' => $name]);
        }
        $put($area('a', null), $area('b', 'maren'));
        [$exit, $told] = $this->told('carry', ['shots' => ['gh020'], '--job' => 'Test', '--from' => 'gh010']);
        // There is no face in the picture; but it was hers that was looked for.
        self::assertSame([1, 'failed'], [$exit, $told[0]['state']]);
        self::assertSame(['b'], Carry::sole()->what['areas']);
        $put($area('a', 'tove'), $area('b', 'maren'));
        self::assertSame([2, null], $this->told('carry', ['shots' => ['gh020'], '--job' => 'Test', '--from' => 'gh010']));
        self::assertSame(2, $this->told('carry', ['shots' => ['gh020'], '--job' => 'Test', '--from' => 'gh010', '--person' => 'Nobody'])[0]);
        self::assertSame(1, $this->told('carry', ['shots' => ['gh020'], '--job' => 'Test', '--from' => 'gh010', '--person' => 'tove lindh'])[0]);
        self::assertSame(['a'], Carry::latest('id')->firstOrFail()->what['areas']);
    }

    public function test_shots_are_delivered_into_a_folder_with_their_sums(): void
    {
        [$exit, $told] = $this->told('deliver', ['--job' => 'Test', '--as' => 'vp9', '--into' => "{$this->folder}/out", '--name' => '{shot}_v{version}', '--beside' => ['recipe', 'report']]);
        self::assertSame([0, ['gh010_v2.webm', 'gh020_v1.webm'], ['gh010_v2_beside.zip', 'gh020_v1_beside.zip']], [$exit, array_column($told, 'file'), array_column($told, 'beside')]);
        $sums = file("{$this->folder}/out/deliveries.sha256", FILE_IGNORE_NEW_LINES) ?: [];
        self::assertCount(4, $sums);
        foreach ($sums as $line) {
            [$sum, $name] = explode('  ', $line);
            self::assertSame(hash_file('sha256', "{$this->folder}/out/{$name}"), $sum);
        }
        $zip = new \ZipArchive();
        $zip->open("{$this->folder}/out/gh010_v2_beside.zip");
        self::assertStringStartsWith('%PDF', (string) $zip->getFromName('gh010_v2.report.pdf'));
        $this->postJson("/api/jobs/{$this->from->job_id}/presets", ['title' => 'Frames', 'format' => 'png', 'handles' => true, 'name' => '{shot}'])->assertOk();
        self::assertSame('gh020.zip', $this->told('deliver', ['shots' => ['gh020'], '--job' => 'Test', '--preset' => 'Frames'])[1][0]['file']);
        foreach ([['--as' => 'film'], ['--name' => '{take}'], ['--height' => '7'], ['--preset' => 'none'], ['--into' => '/none/such'], ['shots' => ['gh090']], ['--job' => 'None']] as $wrong) {
            self::assertSame(2, Artisan::call('cossel:deliver', ['--job' => 'Test', ...$wrong]), json_encode($wrong));
        }
    }

    public function test_reports_and_bundles_are_written_and_a_bundle_comes_in_again(): void
    {
        self::assertSame(0, $this->told('report', ['--job' => 'Test', '--out' => "{$this->folder}/job.pdf"])[0]);
        self::assertSame(0, $this->told('report', ['--job' => 'Test', '--shot' => 'gh010', '--out' => "{$this->folder}/shot.html"])[0]);
        self::assertStringContainsString('exposure: stops 1', (string) file_get_contents("{$this->folder}/shot.html"));
        self::assertSame(2, Artisan::call('cossel:report', ['--job' => 'Test', '--out' => "{$this->folder}/job.doc"]));
        [$exit, $told] = $this->told('bundle', ['shots' => ['gh010'], '--job' => 'Test', '--footage' => true, '--out' => "{$this->folder}/test.bundle.zip"]);
        self::assertSame([0, ['gh010']], [$exit, $told['shots']]);
        self::assertSame(2, Artisan::call('cossel:bundle', ['--job' => 'Test', '--out' => "{$this->folder}/test.tar"]));
        $revisions = $this->from->revisions()->count();
        [$exit, $told] = $this->told('import', ['files' => ["{$this->folder}/test.bundle.zip"]]);
        self::assertSame([0, ['Everything of it was here already.'], 1, $revisions], [$exit, $told[0]['told'], Job::count(), $this->from->revisions()->count()]);
        rename("{$this->folder}/test.bundle.zip", "{$this->folder}/test.zip");
        self::assertSame(0, $this->told('import', ['files' => ["{$this->folder}/test.zip"]])[0]);
        try {
            $this->app->make(Intake::class)->take("{$this->folder}/test.zip", 'test.zip', false);
            self::fail('A bundle was taken for pictures.');
        } catch (UnreadableFootage $refusal) {
            self::assertStringContainsString('it is a bundle, which is brought in where the jobs are listed', $refusal->getMessage());
        }
        file_put_contents("{$this->folder}/bad.bundle.zip", 'x');
        [$exit, $told] = $this->told('import', ['files' => ["{$this->folder}/bad.bundle.zip", "{$this->folder}/none.mkv"], '--job' => 'Test']);
        self::assertSame([1, 'This bundle cannot be taken in: it is no zip archive, or damaged.'], [$exit, $told[0]['error']]);
        self::assertStringContainsString('there is no such file', $told[1]['error']);
        self::assertSame(2, Artisan::call('cossel:import', ['files' => ['x.mkv'], '--frames' => '9']));
    }
}
