<?php

declare(strict_types=1);

namespace App\Console;

use App\Cuts\CutFile;
use App\Cuts\Cuts;
use App\Footage\FfmpegInterrupted;
use App\Footage\FootageStore;
use App\Footage\Intake;
use App\Footage\RefusedFootage;
use App\Footage\StorageFull;
use App\Footage\UnreadableFootage;
use App\Models\Job;
use App\Models\Shot;
use App\Models\ShotState;
use App\Work\PrepareFrames;
use Cossel\Core\Cut\InvalidCut;
use Cossel\Core\Cut\Rate;
use Illuminate\Console\Command;
use Illuminate\Support\Facades\DB;

final class ImportFootage extends Command
{
    protected $signature = 'cossel:import {files* : footage, zipped PNG or TIFF sequences, or cuts (.otio, .edl) with their footage beside} {--job= : name of the job; made if it does not exist} {--frames= : span to use, first-last} {--rate=24/1 : of edit decision lists, as a fraction} {--handles=12 : frames kept on either side of a cut}';

    protected $description = 'Brings footage into a job';

    public function handle(Intake $intake, FootageStore $store, Cuts $cuts): int
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
        $lists = array_values(array_filter($this->argument('files'), CutFile::is(...)));
        foreach (array_diff($this->argument('files'), $lists) as $file) {
            if (!is_file($file)) {
                $this->components->error("{$file}: there is no such file.");
                ++$failed;
                continue;
            }
            try {
                $footage = $intake->take($file, basename($file), false);
                if ($lists !== []) {
                    // The cut says which of its frames are shots.
                    continue;
                }
                $shot = DB::transaction(static function () use ($intake, $footage, $file, $job, $span): Shot {
                    $shot = Shot::create(['job_id' => $job->id, 'name' => pathinfo($file, PATHINFO_FILENAME), 'state' => ShotState::Reading, 'position' => 1 + (int) $job->shots()->max('position')]);
                    $intake->fill($shot, $footage, $span);
                    PrepareFrames::dispatch($shot->id);

                    return $shot;
                });
                $this->components->info("{$file}: frames {$shot->from} to {$shot->to}.");
                array_map(fn(string $damage) => $this->components->warn("{$file}: {$damage}"), $footage->info()->damage);
            } catch (UnreadableFootage|RefusedFootage|FfmpegInterrupted|StorageFull $refusal) {
                $this->components->error("{$file}: {$refusal->getMessage()}");
                isset($footage) && $store->drop($footage);
                ++$failed;
            }
            unset($footage);
        }

        foreach ($lists as $list) {
            $failed += (int) !$this->cut($cuts, $job, $list);
        }

        return $failed === 0 ? 0 : 1;
    }

    private function cut(Cuts $cuts, Job $job, string $list): bool
    {
        try {
            $text = is_file($list) ? (string) file_get_contents($list) : throw InvalidCut::at('', 'there is no such file');
            $told = $cuts->bringIn($job, CutFile::read($list, $text, Rate::parse((string) $this->option('rate'))), max(0, (int) $this->option('handles')));
        } catch (InvalidCut $reason) {
            $this->components->error("{$list}: {$reason->getMessage()}");

            return false;
        }
        array_map(fn(string $sentence) => $this->components->info("{$list}: {$sentence}"), $told);

        return true;
    }
}
