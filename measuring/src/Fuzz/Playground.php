<?php

declare(strict_types=1);

namespace Cossel\Measuring\Fuzz;

use App\Carrying\KeptTreatments;
use App\Deliveries\Format;
use App\Deliveries\Orders;
use App\Following\Follows;
use App\Models\Carry;
use App\Models\CarryState;
use App\Models\Failure;
use App\Models\Job;
use App\Models\Shot;
use App\Treatment\Recipes;
use App\Work\ReadFootage;
use Illuminate\Filesystem\Filesystem;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Str;
use Symfony\Component\Process\Process;

/** A job with small treated shots, in data of its own, for what may break it. */
final class Playground
{
    private const CLIP = ['-f', 'lavfi', '-i', 'testsrc2=size=96x64:rate=24:duration=0.5', '-c:v', 'ffv1', '-pix_fmt', 'yuv420p'];

    public function __construct(private readonly Recipes $recipes, private readonly KeptTreatments $treatments, private readonly Orders $orders, private readonly Follows $follows) {}

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

    /** A job with two treated shots, and one row of everything that a request may name. */
    public function restore(): void
    {
        $file = config('filesystems.disks.data.root') . '/clip.mkv';
        (new Process(['ffmpeg', '-v', 'error', ...self::CLIP, '-y', $file], timeout: 60))->mustRun();
        $this->reels($file);
        foreach ([1, 2] as $n) {
            Artisan::call('cossel:import', ['files' => [$file], '--job' => 'Fuzz']);
        }
        $job = Job::where('name', 'Fuzz')->firstOrFail();
        $job->people()->firstOrCreate(['slug' => 'wren'], ['name' => 'Wren']);
        $ellipse = static fn(string $id, float $x): array => ['id' => $id, 'kind' => 'ellipse', 'centre' => [$x, 0.5], 'radii' => [0.2, 0.2], 'featherOut' => 0.1];
        $shots = Shot::where('job_id', $job->id)->where('state', 'ready')->where('revision', 1)->get();
        foreach ($shots as $shot) {
            $this->recipes->edit($shot, static fn(array $document): array => [
                ...$document,
                'areas' => [
                    ['id' => 'face', 'name' => 'Face', 'person' => 'wren', 'part' => 'face', 'outline' => ['at' => 0, 'shapes' => [$ellipse('s1', 0.7)]], 'live' => ['from' => 0, 'to' => 11], 'touches' => [['id' => 't1', 'kind' => 'exposure', 'stops' => 0.5], ['id' => 'cdl', 'kind' => 'cdl']]],
                    ['id' => 'lips', 'name' => 'Lips', 'outline' => ['at' => 0, 'shapes' => [$ellipse('s2', 0.8)]], 'motion' => ['by' => 'ride', 'on' => 'face'], 'live' => ['from' => 0, 'to' => 11]],
                ],
            ], 'Face');
            $shot->versions()->firstOrCreate(['name' => 'First'], ['number' => 1]);
            $shot->frameNotes()->create(['frame' => 3, 'text' => 'Softer']);
        }
        $shot = $shots->last() ?? throw new \LogicException('The clip did not become a shot.');
        $job->presets()->updateOrCreate(['name' => 'Reviews'], ['order' => ['format' => 'ffv1', 'handles' => true, 'name' => '{shot}']]);
        $this->treatments->keep($shot, 'Warm', ['face'], true, false);
        $this->orders->place($shot, Format::Ffv1, 0, 5);
        $this->follows->begin($shot, ['area' => 'face', 'start' => 5, 'from' => 2, 'to' => 9]);
        $what = ['areas' => ['face'], 'touches' => null, 'base' => false, 'finish' => false, 'replace' => false, 'match' => true];
        Carry::create(['batch' => Str::uuid(), 'source_id' => $shot->id, 'source_revision' => 2, 'shot_id' => $shots->firstOrFail()->id, 'state' => CarryState::Proposed, 'what' => $what, 'frame' => 3, 'revision' => 2, 'recipe' => $this->recipes->present($shot)->recipe]);
        Failure::updateOrCreate(['about' => "shot {$shot->id}"], ['what' => 'Reading footage', 'reason' => 'It broke off.', 'work' => serialize(new ReadFootage($shot->id))]);
    }

    /** Folders of the server, with what is no film among it. */
    private function reels(string $film): void
    {
        $reels = config('filesystems.disks.data.root') . '/reels';
        (new Filesystem())->ensureDirectoryExists("{$reels}/row");
        copy($film, "{$reels}/clip.mkv");
        foreach ([1, 2] as $n) {
            imagepng(imagecreatetruecolor(64, 48) ?: throw new \RuntimeException('no picture'), "{$reels}/row/p{$n}.png");
        }
        @posix_mkfifo("{$reels}/pipe.mkv", 0600);
        @symlink('/etc', "{$reels}/out");
        config(['cossel.folders' => [$reels]]);
    }
}
