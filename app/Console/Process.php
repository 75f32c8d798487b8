<?php

declare(strict_types=1);

namespace App\Console;

use App\Deliveries\FileProcess;
use App\Deliveries\FileProcessFailed;
use App\Footage\FfmpegFailed;
use App\Footage\FfmpegInterrupted;
use App\Footage\RefusedFootage;
use App\Footage\StorageFull;
use App\Footage\UnreadableFootage;
use App\Pictures\TooCostly;
use Cossel\Core\Colour\InvalidCube;
use Cossel\Core\Motion\MissingTrack;
use Cossel\Core\Motion\TooLittleTexture;
use Cossel\Core\Recipe\InvalidRecipe;
use Cossel\Core\Touch\MissingAsset;
use Illuminate\Console\Command;

/**
 * Footage and a recipe in, a finished file out, without the interface.
 *
 * Exit codes: 0 done; 2 wrong use; 3 the footage cannot be used; 4 the recipe or a track cannot be used; 5 following
 * failed; 6 rendering or writing failed; 130 stopped from outside.
 */
final class Process extends Command
{
    protected $signature = 'cossel:process
        {--footage= : file to treat}
        {--recipe= : recipe to treat it with}
        {--out= : file to write: .mkv, .webm or .zip}
        {--mattes= : folder for the areas\' mattes, 16-bit grey PNG}
        {--tracks= : file to write the tracks to}
        {--points= : file with places whose ways are written into the tracks}
        {--use-tracks= : file with tracks to use instead of following}
        {--assets= : folder with the files the recipe names besides its footage}
        {--frames= : first-last; the recipe\'s span when left out}
        {--workers=2 : processes to render with}';

    protected $description = 'Treats a file with a recipe';

    public function handle(FileProcess $process): int
    {
        foreach (['footage', 'recipe', 'out'] as $needed) {
            if ($this->option($needed) === null) {
                return $this->refuse(2, "--{$needed} is missing.");
            }
        }
        $frames = $this->option('frames');
        if ($frames !== null && preg_match('/^\d+-\d+\z/', $frames) !== 1) {
            return $this->refuse(2, '--frames takes two frame numbers, as in 12-59.');
        }
        if ($this->option('points') !== null && $this->option('tracks') === null) {
            return $this->refuse(2, '--points needs --tracks, the file their ways are written to.');
        }
        $workers = filter_var($this->option('workers'), FILTER_VALIDATE_INT, ['options' => ['min_range' => 1, 'max_range' => 64]]);
        if ($workers === false) {
            return $this->refuse(2, '--workers takes a number from 1 to 64.');
        }
        // Whoever stops it stops what it has started, too, and nothing is left lying about.
        $this->trap([SIGINT, SIGTERM, SIGHUP], static fn() => throw FileProcessFailed::stopped());
        try {
            $process->run(
                $this->option('footage'),
                $this->option('recipe'),
                $this->option('out'),
                $this->option('mattes'),
                $this->option('tracks'),
                $this->option('use-tracks'),
                $this->option('points'),
                $this->option('assets'),
                $frames === null ? null : array_map(intval(...), explode('-', $frames)),
                $workers,
                fn(string $line) => $this->output->getErrorStyle()->writeln($line),
            );
        } catch (FileProcessFailed $e) {
            return $this->refuse($e->exit, $e->getMessage());
        } catch (UnreadableFootage|RefusedFootage $e) {
            return $this->refuse(3, "{$this->option('footage')}: {$e->getMessage()}");
        } catch (InvalidRecipe|InvalidCube|MissingAsset|MissingTrack $e) {
            return $this->refuse(4, "{$this->option('recipe')}: {$e->getMessage()}");
        } catch (TooLittleTexture $e) {
            return $this->refuse(5, $e->getMessage());
        } catch (FfmpegFailed|FfmpegInterrupted|StorageFull|TooCostly $e) {
            return $this->refuse(6, $e->getMessage());
        }

        return 0;
    }

    private function refuse(int $exit, string $reason): int
    {
        $this->output->getErrorStyle()->writeln("cossel process: {$reason}");

        return $exit;
    }
}
