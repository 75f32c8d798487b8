<?php

declare(strict_types=1);

namespace App\Console;

use App\Models\Job;
use App\Models\Shot;
use App\Models\ShotState;
use App\Work\ReadFootage;
use Illuminate\Console\Command;
use Illuminate\Filesystem\Filesystem;
use Illuminate\Support\Facades\Storage;
use Illuminate\Support\Str;

final class ImportFootage extends Command
{
    protected $signature = 'cossel:import {files* : footage, or zipped PNG or TIFF sequences} {--job= : name of the job; made if it does not exist} {--frames= : span to use, first-last}';

    protected $description = 'Brings footage into a job';

    public function handle(Filesystem $files): int
    {
        $span = null;
        if ($this->option('frames') !== null) {
            if (preg_match('/^(\d+)-(\d+)\z/', (string) $this->option('frames'), $m) !== 1) {
                $this->components->error('--frames takes two frame numbers, as in 12-59.');

                return 2;
            }
            $span = [(int) $m[1], (int) $m[2]];
        }
        $job = Job::firstOrCreate(['name' => $this->option('job') ?? 'Unnamed job']);
        $failed = 0;
        foreach ($this->argument('files') as $file) {
            if (!is_file($file)) {
                $this->components->error("{$file}: there is no such file.");
                ++$failed;
                continue;
            }
            Storage::disk('data')->makeDirectory('uploads');
            $copy = Storage::disk('data')->path('uploads/' . Str::uuid());
            $files->copy($file, $copy);
            $shot = Shot::create(['job_id' => $job->id, 'name' => pathinfo($file, PATHINFO_FILENAME), 'state' => ShotState::Reading, 'position' => 1 + (int) $job->shots()->max('position')]);
            ReadFootage::dispatchSync($shot->id, $copy, basename($file), $span);
            $shot->refresh();
            if ($shot->state === ShotState::Ready) {
                $this->components->info("{$file}: frames {$shot->from} to {$shot->to}.");
            } else {
                $this->components->error("{$file}: {$shot->error}");
                $shot->delete();
                ++$failed;
            }
        }

        return $failed === 0 ? 0 : 1;
    }
}
