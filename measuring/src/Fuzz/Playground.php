<?php

declare(strict_types=1);

namespace Cossel\Measuring\Fuzz;

use App\Models\Job;
use App\Models\Shot;
use App\Treatment\Recipes;
use Illuminate\Support\Facades\Artisan;
use Symfony\Component\Process\Process;

/** A job with a small treated shot, in data of its own, for what may break it. */
final class Playground
{
    private const CLIP = ['-f', 'lavfi', '-i', 'testsrc2=size=96x64:rate=24:duration=0.5', '-c:v', 'ffv1', '-pix_fmt', 'yuv420p'];

    public function __construct(private readonly Recipes $recipes) {}

    /** Nothing is tried on data that somebody works with. */
    public function check(): void
    {
        $data = (string) config('filesystems.disks.data.root');
        if (!str_contains($data, 'fuzz') && !str_contains($data, 'test')) {
            throw new \RuntimeException("Set COSSEL_DATA to a folder for this alone; {$data} may be somebody's work.");
        }
    }

    /** @return non-empty-list<mixed> the demo's recipes */
    public function recipes(): array
    {
        $recipes = array_map(static fn(string $file): mixed => json_decode((string) file_get_contents($file), true), glob(base_path('demo/recipes/*.recipe.json')) ?: []);

        return $recipes === [] ? [[]] : array_values($recipes);
    }

    public function restore(): void
    {
        $file = config('filesystems.disks.data.root') . '/clip.mkv';
        (new Process(['ffmpeg', '-v', 'error', ...self::CLIP, '-y', $file], timeout: 60))->mustRun();
        Artisan::call('cossel:import', ['files' => [$file], '--job' => 'Fuzz']);
        $job = Job::where('name', 'Fuzz')->firstOrFail();
        $job->people()->firstOrCreate(['slug' => 'wren'], ['name' => 'Wren']);
        $shot = Shot::where('job_id', $job->id)->where('state', 'ready')->orderByDesc('id')->firstOrFail();
        $ellipse = static fn(string $id, float $x): array => ['id' => $id, 'kind' => 'ellipse', 'centre' => [$x, 0.5], 'radii' => [0.2, 0.2], 'featherOut' => 0.1];
        $this->recipes->edit($shot, static fn(array $document): array => [
            ...$document,
            'areas' => [
                ['id' => 'face', 'name' => 'Face', 'person' => 'wren', 'outline' => ['at' => 0, 'shapes' => [$ellipse('s1', 0.7)]], 'live' => ['from' => 0, 'to' => 11], 'touches' => [['id' => 't1', 'kind' => 'exposure', 'stops' => 0.5], ['id' => 'cdl', 'kind' => 'cdl']]],
                ['id' => 'lips', 'name' => 'Lips', 'outline' => ['at' => 0, 'shapes' => [$ellipse('s2', 0.8)]], 'motion' => ['by' => 'ride', 'on' => 'face'], 'live' => ['from' => 0, 'to' => 11]],
            ],
        ], 'Face');
        $shot->versions()->create(['name' => 'First', 'number' => 1]);
    }
}
