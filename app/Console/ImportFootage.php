<?php

declare(strict_types=1);

namespace App\Console;

use App\Bundles\BadBundle;
use App\Bundles\BundleReader;
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
use Illuminate\Support\Facades\DB;

final class ImportFootage extends JobCommand
{
    protected $signature = 'cossel:import {files* : footage, sequences zipped or in folders, cuts (.otio, .edl) with their footage beside, or bundles} {--job= : name of the job; made if it does not exist} {--frames= : span to use, first-last} {--rate=24/1 : of edit decision lists, as a fraction} {--handles=12 : frames kept on either side of a cut} {--json : tell it as JSON}';

    protected $description = 'Brings footage, cuts and bundles in';

    /** @var list<array{file: string, told: list<string>, error: string|null}> */
    private array $done = [];

    public function handle(Intake $intake, FootageStore $store, Cuts $cuts, BundleReader $bundles): int
    {
        return $this->guarded(function () use ($intake, $store, $cuts, $bundles): int {
            $this->done = [];
            $span = $this->span();
            $files = $this->argument('files');
            $packed = array_values(array_filter($files, BundleReader::is(...)));
            $lists = array_values(array_filter($files, CutFile::is(...)));
            foreach ($packed as $file) {
                $this->take($file, static fn(): array => $bundles->read($file)[1]);
            }
            $films = array_values(array_diff($files, $packed, $lists));
            $job = $films === [] && $lists === [] ? null : Job::firstOrCreate(['name' => $this->option('job') ?? 'Unnamed job']);
            foreach ($job === null ? [] : $films as $file) {
                $this->take($file, fn(): array => $this->film($intake, $store, $job, $file, $span, $lists !== []));
            }
            foreach ($job === null ? [] : $lists as $list) {
                $this->take($list, function () use ($cuts, $job, $list): array {
                    $most = (int) config('limits.texts.cut_bytes');
                    $text = is_file($list) ? (string) file_get_contents($list, length: $most + 1) : throw InvalidCut::at('', 'there is no such file');
                    strlen($text) <= $most || throw InvalidCut::at('', sprintf('a cut has at most %d MB', intdiv($most, 1_000_000)));

                    return $cuts->bringIn($job, CutFile::read($list, $text, Rate::parse((string) $this->option('rate'))), max(0, (int) $this->option('handles')));
                });
            }
            $this->tell($this->done, array_merge(...array_map(static fn(array $one): array => array_map(static fn(string $words): string => "{$one['file']}: {$words}", $one['told']), $this->done)));

            return array_filter(array_column($this->done, 'error')) === [] ? self::DONE : self::PARTLY;
        });
    }

    /**
     * @return array{int, int}|null
     *
     * @throws WrongUse
     */
    private function span(): ?array
    {
        $frames = $this->option('frames');
        if ($frames === null) {
            return null;
        }

        return preg_match('/^(\d+)-(\d+)\z/', (string) $frames, $m) === 1 ? [(int) $m[1], (int) $m[2]] : throw WrongUse::because('--frames takes two frame numbers, as in 12-59.');
    }

    /** @param callable(): list<string> $act what brings it in and tells what was done */
    private function take(string $file, callable $act): void
    {
        try {
            $this->done[] = ['file' => $file, 'told' => $act(), 'error' => null];
        } catch (UnreadableFootage|RefusedFootage|FfmpegInterrupted|StorageFull|InvalidCut|BadBundle $refusal) {
            $this->done[] = ['file' => $file, 'told' => [], 'error' => $refusal->getMessage()];
            $this->option('json') || $this->output->getErrorStyle()->writeln("{$file}: {$refusal->getMessage()}");
        }
    }

    /**
     * @param array{int, int}|null $span
     * @param bool                 $cut  whether a cut says which of its frames are shots
     *
     * @return list<string>
     */
    private function film(Intake $intake, FootageStore $store, Job $job, string $file, ?array $span, bool $cut): array
    {
        if (!file_exists($file)) {
            throw UnreadableFootage::because('there is no such file');
        }
        $footage = $intake->take($file, basename($file), false);
        if ($cut) {
            return [];
        }
        try {
            $shot = DB::transaction(static function () use ($intake, $footage, $file, $job, $span): Shot {
                $shot = Shot::create(['job_id' => $job->id, 'name' => pathinfo($file, PATHINFO_FILENAME), 'state' => ShotState::Reading, 'position' => 1 + (int) $job->shots()->max('position')]);
                $intake->fill($shot, $footage, $span);
                PrepareFrames::dispatch($shot->id);

                return $shot;
            });
        } catch (RefusedFootage $refusal) {
            $store->drop($footage);

            throw $refusal;
        }

        return ["frames {$shot->from} to {$shot->to}.", ...$footage->info()->damage];
    }
}
