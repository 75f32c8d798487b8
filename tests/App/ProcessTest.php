<?php

declare(strict_types=1);

namespace Tests\App;

use Illuminate\Support\Facades\Artisan;
use PHPUnit\Framework\Attributes\Group;
use Symfony\Component\Process\Process;

/** The command line: what it writes, and what its exit codes mean. */
#[Group('slow')]
final class ProcessTest extends AppTestCase
{
    private string $clip;

    protected function setUp(): void
    {
        parent::setUp();
        $this->clip = $this->film('clip.mkv', ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p'], '192x108');
    }

    /**
     * @param array<string, mixed> $options
     *
     * @return array{int, string} exit code and what it said
     */
    private function run_(array $options): array
    {
        $code = Artisan::call('cossel:process', ['--footage' => $this->clip, '--out' => "{$this->folder}/out.mkv", '--workers' => 1, ...$options]);

        return [$code, Artisan::output()];
    }

    /** @param array<string, mixed> $changes */
    private function recipe_(array $changes = []): string
    {
        $file = "{$this->folder}/recipe.json";
        file_put_contents($file, json_encode([
            'cossel' => 'recipe/1',
            'source' => ['sha256' => hash_file('sha256', $this->clip), 'span' => [4, 9], 'rate' => '24/1', 'size' => [192, 108]],
            'areas' => [[
                'id' => 'face', 'name' => 'Face',
                'outline' => ['at' => 6, 'shapes' => [
                    ['id' => 's1', 'kind' => 'ellipse', 'centre' => [0.9, 0.5], 'radii' => [0.4, 0.4], 'motion' => ['by' => 'follow', 'start' => 6, 'span' => [4, 9], 'model' => 'position']],
                    ['id' => 's2', 'kind' => 'area', 'of' => 'hole', 'join' => 'cut'],
                ]],
                'motion' => ['by' => 'follow', 'start' => 6, 'span' => [4, 9], 'model' => 'position'],
                'live' => ['from' => 0, 'to' => 29],
                'touches' => [['id' => 't1', 'kind' => 'exposure', 'stops' => 1]],
            ], [
                'id' => 'hole', 'name' => 'Hole',
                'outline' => ['at' => 6, 'shapes' => [['id' => 'h1', 'kind' => 'box', 'centre' => [0.9, 0.5], 'radii' => [0.15, 0.1]]]],
                'live' => ['from' => 0, 'to' => 29],
            ]],
            ...$changes,
        ]));

        return $file;
    }

    private function frames(string $file): string
    {
        return $this->ffmpeg(['-i', $file, '-map', '0:v', '-f', 'framemd5', '-']);
    }

    public function test_areas_and_their_shapes_are_followed_rendered_and_written_with_mattes_and_tracks(): void
    {
        [$code, $said] = $this->run_(['--recipe' => $this->recipe_(), '--mattes' => "{$this->folder}/mattes", '--tracks' => "{$this->folder}/tracks.json"]);
        self::assertSame(0, $code, $said);
        $tracks = json_decode((string) file_get_contents("{$this->folder}/tracks.json"), true);
        self::assertSame(['face/s1', 'face'], array_keys($tracks['areas']));
        self::assertSame([4, 9], [$tracks['areas']['face']['frames'][0]['frame'], $tracks['areas']['face']['frames'][5]['frame']]);
        self::assertCount(9, $tracks['areas']['face/s1']['frames'][0]['corrected']);
        self::assertFileExists("{$this->folder}/mattes/face/000004.png");
        self::assertFileExists("{$this->folder}/mattes/hole/000009.png");
        // The hole that was cut out is black in the face's matte and white in its own.
        $grey = static fn(string $file): int => imagecolorat(imagecreatefrompng($file) ?: throw new \RuntimeException($file), 97, 54) & 0xFF;
        self::assertSame([0, 255], [$grey("{$this->folder}/mattes/face/000006.png"), $grey("{$this->folder}/mattes/hole/000006.png")]);

        // Given the tracks, nothing is followed and the pixels are the same.
        [$code, $said] = $this->run_(['--recipe' => $this->recipe_(), '--out' => "{$this->folder}/again.mkv", '--use-tracks' => "{$this->folder}/tracks.json"]);
        self::assertSame(0, $code, $said);
        self::assertStringNotContainsString('follow', $said);
        self::assertSame($this->frames("{$this->folder}/out.mkv"), $this->frames("{$this->folder}/again.mkv"));
    }

    public function test_the_tracks_tell_where_chosen_places_are(): void
    {
        file_put_contents("{$this->folder}/points.json", '[[0.9, 0.5], [0.95, 0.4]]');
        $options = ['--recipe' => $this->recipe_(), '--frames' => '5-5', '--tracks' => "{$this->folder}/tracks.json", '--points' => "{$this->folder}/points.json"];
        [$code, $said] = $this->run_($options);
        self::assertSame(0, $code, $said);
        $frames = array_column(json_decode((string) file_get_contents("{$this->folder}/tracks.json"), true)['areas']['face']['frames'], null, 'frame');
        self::assertEqualsWithDelta([[0.9, 0.5], [0.95, 0.4]], $frames[6]['places'], 1e-6);
        $moved = $frames[9]['corrected'];
        self::assertEqualsWithDelta([0.9 + $moved[2], 0.5 + $moved[5]], $frames[9]['places'][0], 1e-6);
        // Read back, they are no part of the tracks.
        [$code, $said] = $this->run_([...$options, '--use-tracks' => "{$this->folder}/tracks.json"]);
        self::assertSame(0, $code, $said);
        foreach (['[[0.9]]' => '/face/0', '{"nose": [[0, 0]]}' => '/nose', '[["a", 1]]' => '/face/0/0', '7' => 'object'] as $wrong => $where) {
            file_put_contents("{$this->folder}/points.json", $wrong);
            [$code, $said] = $this->run_($options);
            self::assertSame(2, $code, $said);
            self::assertStringContainsString('points.json: ', $said);
            self::assertStringContainsString($where, $said);
        }
        [$code, $said] = $this->run_(['--recipe' => $this->recipe_(), '--points' => "{$this->folder}/points.json"]);
        self::assertSame(2, $code);
        self::assertStringContainsString('--tracks', $said);
    }

    public function test_only_some_frames_are_rendered_where_asked(): void
    {
        [$code, $said] = $this->run_(['--recipe' => $this->recipe_(['areas' => []]), '--frames' => '5-7']);
        self::assertSame(0, $code, $said);
        self::assertSame(3, substr_count($this->frames("{$this->folder}/out.mkv"), "\n0, "));
        [$code, $said] = $this->run_(['--recipe' => $this->recipe_(['areas' => []]), '--frames' => '5-99']);
        self::assertSame(2, $code);
        self::assertStringContainsString('frames 0 to 29', $said);
    }

    public function test_exit_codes_tell_what_went_wrong_and_one_line_tells_why(): void
    {
        $text = "{$this->folder}/notes.webm";
        file_put_contents($text, "Not a film at all.\n");
        $flat = $this->film('flat.mkv', ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p'], '192x108', filter: 'drawbox=color=gray:t=fill');
        $cases = [
            [2, ['--recipe' => null], '--recipe'],
            [2, ['--recipe' => $this->recipe_(), '--out' => "{$this->folder}/out.gif"], '.mkv, .mov, .mp4, .webm or .zip'],
            [3, ['--recipe' => $this->recipe_(), '--footage' => $text], 'notes.webm'],
            [5, ['--recipe' => $this->recipe_(), '--footage' => $flat], 'points to hold on to'],
        ];
        foreach ($cases as [$wanted, $options, $why]) {
            [$code, $said] = $this->run_($options);
            self::assertSame($wanted, $code, $said);
            self::assertStringContainsString($why, $said);
            self::assertFileDoesNotExist("{$this->folder}/out.mkv");
        }
        [$code, $said] = $this->run_(['--recipe' => $this->recipe_(['areas' => [['id' => 'face', 'name' => 'Face', 'outline' => ['at' => 0, 'shapes' => [['id' => 's', 'kind' => 'star']]], 'live' => ['from' => 0, 'to' => 1]]]])]);
        self::assertSame(4, $code);
        self::assertStringContainsString('/areas/0/outline/shapes/0/kind', $said);
        file_put_contents("{$this->folder}/broken.json", '{');
        self::assertSame(4, $this->run_(['--recipe' => "{$this->folder}/broken.json"])[0]);
    }

    public function test_files_of_a_recipe_come_from_a_folder_by_their_content(): void
    {
        $black = "LUT_1D_SIZE 2\n0 0 0\n0 0 0\n";
        $recipe = $this->recipe_(['areas' => [], 'assets' => ['black' => ['sha256' => hash('sha256', $black), 'kind' => 'cube']], 'base' => [['id' => 'b', 'kind' => 'lut', 'file' => 'black']]]);
        [$code, $said] = $this->run_(['--recipe' => $recipe]);
        self::assertSame(4, $code);
        self::assertStringContainsString('The file “black” that a touch needs is not there.', $said);
        mkdir("{$this->folder}/files");
        file_put_contents("{$this->folder}/files/whatever.txt", $black);
        [$code, $said] = $this->run_(['--recipe' => $recipe, '--assets' => "{$this->folder}/files"]);
        self::assertSame(0, $code, $said);
        $this->ffmpeg(['-i', "{$this->folder}/out.mkv", '-frames:v', '1', '-pix_fmt', 'gray', '-update', '1', '-y', "{$this->folder}/first.png"]);
        $image = imagecreatefrompng("{$this->folder}/first.png");
        self::assertNotFalse($image);
        self::assertLessThan(3, imagecolorat($image, 97, 54) & 0xFF);
    }

    public function test_stopped_from_outside_it_leaves_neither_processes_nor_files(): void
    {
        $process = new Process([PHP_BINARY, base_path('artisan'), 'cossel:process', '--footage', $this->film('long.mkv', ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p'], '640x360', 48), '--recipe', $this->recipe_(['source' => ['sha256' => str_repeat('ab', 32), 'span' => [0, 47], 'rate' => '24/1', 'size' => [640, 360]], 'areas' => [], 'base' => [['id' => 'b', 'kind' => 'blur', 'radius' => 0.05]]]), '--out', "{$this->folder}/out.mkv"], env: ['APP_ENV' => 'production']);
        $process->start();
        $end = microtime(true) + 60;
        while (glob("{$this->folder}/out.mkv.parts/*.part") === [] && microtime(true) < $end) {
            usleep(50_000);
        }
        $process->signal(SIGTERM);
        self::assertSame(130, $process->wait(), $process->getErrorOutput());
        self::assertStringContainsString('It was stopped.', $process->getErrorOutput());
        self::assertSame([], glob("{$this->folder}/out*"));
        usleep(300_000);
        $left = new Process(['pgrep', '-f', $this->folder]);
        $left->run();
        self::assertSame('', trim($left->getOutput()));
    }

    public function test_a_recipe_without_source_treats_a_folder_and_writes_a_table(): void
    {
        mkdir("{$this->folder}/reels");
        mkdir("{$this->folder}/done");
        copy($this->clip, "{$this->folder}/reels/a.mkv");
        $this->ffmpeg(['-i', $this->clip, '-vf', 'negate', '-c:v', 'ffv1', '-frames:v', '12', "{$this->folder}/reels/b.mkv"]);
        file_put_contents("{$this->folder}/reels/c.mkv", 'no film');
        $recipe = json_decode((string) file_get_contents($this->recipe_()), true);
        unset($recipe['source']);
        file_put_contents("{$this->folder}/any.recipe.json", json_encode($recipe));
        [$code, $said] = $this->run_(['--footage' => ["{$this->folder}/reels"], '--recipe' => "{$this->folder}/any.recipe.json", '--out' => "{$this->folder}/done", '--as' => 'vp9']);
        self::assertSame(3, $code, $said);
        $table = array_map(static fn(string $line): array => str_getcsv($line, escape: ''), file("{$this->folder}/done/table.csv", FILE_IGNORE_NEW_LINES) ?: []);
        self::assertSame([['footage', 'out', 'first', 'last'], ["{$this->folder}/reels/a.mkv", "{$this->folder}/done/a.webm", '0', '29'], ["{$this->folder}/reels/b.mkv", "{$this->folder}/done/b.webm", '0', '11'], ["{$this->folder}/reels/c.mkv", '', '', '']], array_map(static fn(array $row): array => array_slice($row, 0, 4), $table));
        self::assertSame(['0', '0', '3'], array_column(array_slice($table, 1), 5));
        self::assertStringContainsString('cannot be read as video', $table[3][6]);
        self::assertCount(2, glob("{$this->folder}/done/*.webm") ?: []);
        foreach ([['--out' => "{$this->folder}/done/x.mkv"], ['--as' => 'film'], ['--as' => 'vp9', '--out' => "{$this->folder}/none"], ['--mattes' => "{$this->folder}/m"]] as $wrong) {
            self::assertSame(2, $this->run_(['--footage' => ["{$this->folder}/reels"], '--recipe' => "{$this->folder}/any.recipe.json", '--out' => "{$this->folder}/done", ...$wrong])[0], json_encode($wrong));
        }
        self::assertSame(2, $this->run_(['--recipe' => "{$this->folder}/any.recipe.json", '--as' => 'prores'])[0]);
    }

    public function test_a_kept_treatment_is_laid_on_whoever_is_seen_and_refused_where_nobody_is(): void
    {
        $demo = base_path('demo/footage/gh010_backlit.webm');
        $shot = $this->shot($this->film('from.mkv', ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p'], '192x108', 6));
        $area = ['id' => 'face', 'name' => 'Face', 'part' => 'face', 'person' => 'ione', 'live' => ['from' => 0, 'to' => 5], 'touches' => [['id' => 't', 'kind' => 'exposure', 'stops' => 1]], 'outline' => ['at' => 0, 'shapes' => [['id' => 's', 'kind' => 'ellipse', 'centre' => [0.9, 0.5], 'radii' => [0.3, 0.3]]]]];
        $this->putJson("/api/shots/{$shot->id}/recipe", ['base' => 1, 'label' => 'Treat', 'recipe' => ['areas' => [$area]] + $this->recipe($shot)])->assertOk();
        $id = $this->postJson("/api/shots/{$shot->id}/treatments", ['title' => 'Bright', 'areas' => ['face'], 'base' => false, 'finish' => false])->assertOk()->json('id');
        file_put_contents($file = "{$this->folder}/bright.recipe.json", (string) $this->get("/api/jobs/{$shot->job_id}/treatments/{$id}")->getContent());
        $span = "{$this->folder}/short.mkv";
        $this->ffmpeg(['-i', $demo, '-frames:v', '6', '-c:v', 'ffv1', $span]);
        [$code, $said] = $this->run_(['--footage' => $span, '--recipe' => $file, '--tracks' => "{$this->folder}/tracks.json", '--mattes' => "{$this->folder}/mattes"]);
        self::assertSame(0, $code, $said);
        $areas = json_decode((string) file_get_contents("{$this->folder}/tracks.json"), true)['areas'];
        self::assertCount(6, reset($areas)['frames']);
        self::assertCount(1, glob("{$this->folder}/mattes/*") ?: []);
        [$code, $said] = $this->run_(['--recipe' => $file]);
        self::assertSame(5, $code, $said);
        self::assertFileDoesNotExist("{$this->folder}/out.mkv.parts");
    }

    public function test_what_a_killed_one_left_is_cleared_by_the_next_and_what_another_works_in_is_not(): void
    {
        $command = ['php', base_path('artisan'), 'cossel:process', '--footage=' . $this->clip, '--recipe=' . $this->recipe_(), "--out={$this->folder}/killed.mkv"];
        $killed = new Process($command, timeout: 60);
        $killed->start();
        for ($i = 0; $i < 600 && !is_file("{$this->folder}/killed.mkv.parts/held"); ++$i) {
            usleep(20_000);
        }
        self::assertFileExists("{$this->folder}/killed.mkv.parts/held");
        $killed->signal(SIGSTOP);
        [$code, $said] = $this->run_(['--recipe' => $this->recipe_(), '--out' => "{$this->folder}/killed.mkv"]);
        self::assertSame([2, true], [$code, str_contains($said, 'Another process writes this file already: killed.mkv.')], $said);
        self::assertSame(0, $this->run_(['--recipe' => $this->recipe_()])[0]);
        self::assertDirectoryExists("{$this->folder}/killed.mkv.parts");
        $killed->signal(SIGKILL);
        $killed->wait();
        self::assertSame(0, $this->run_(['--recipe' => $this->recipe_()])[0]);
        self::assertSame([], glob("{$this->folder}/*.parts") ?: []);
    }
}
