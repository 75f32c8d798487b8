<?php

declare(strict_types=1);

namespace App\Console;

use App\Deliveries\FileProcess;
use App\Deliveries\FileProcessFailed;
use App\Deliveries\Format;
use App\Deliveries\ProcessOrder;
use App\Faces\CannotFindFaces;
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
        {--footage=* : file, sequence or folder of files to treat; may be given several times}
        {--recipe= : recipe to treat it with; one without source is for whatever footage, a kept treatment is laid on whoever is seen}
        {--out= : file to write: .mkv, .mov, .mp4, .webm or .zip; for several files a folder}
        {--as= : format, where the ending does not tell it}
        {--mattes= : folder for the areas\' mattes, 16-bit grey PNG}
        {--tracks= : file to write the tracks to}
        {--points= : file with places whose ways are written into the tracks}
        {--use-tracks= : file with tracks to use instead of following}
        {--assets= : folder with the files the recipe names besides its footage}
        {--frames= : first-last; the recipe\'s span when left out}
        {--workers=2 : processes to render with}';

    protected $description = 'Treats files with a recipe';

    public function handle(FileProcess $process): int
    {
        $footage = (array) $this->option('footage');
        foreach (['footage' => $footage === [] ? null : $footage, 'recipe' => $this->option('recipe'), 'out' => $this->option('out')] as $name => $given) {
            if ($given === null) {
                return $this->refuse(2, "--{$name} is missing.");
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
        $as = $this->option('as') === null ? null : Format::tryFrom((string) $this->option('as'));
        if ($this->option('as') !== null && $as === null) {
            return $this->refuse(2, "There is no format {$this->option('as')}; there are " . implode(', ', array_column(Format::cases(), 'value')) . '.');
        }
        // Whoever stops it stops what it has started, too, and nothing is left lying about.
        $this->trap([SIGINT, SIGTERM, SIGHUP], static fn() => throw FileProcessFailed::stopped());
        $order = new ProcessOrder(
            $this->option('recipe'),
            $as,
            $this->option('mattes'),
            $this->option('tracks'),
            $this->option('use-tracks'),
            $this->option('points'),
            $this->option('assets'),
            $frames === null ? null : array_map(intval(...), explode('-', $frames)),
            $workers,
        );
        $out = (string) $this->option('out');
        $films = self::films($footage);

        return $films === null ? $this->one($process, $footage[0], $out, $order)[0] : $this->several($process, $films, $out, $order);
    }

    /**
     * Files to treat one after the other; null where it is one.
     *
     * @param list<string> $footage
     *
     * @return list<string>|null
     */
    private static function films(array $footage): ?array
    {
        $films = [];
        foreach ($footage as $path) {
            $inside = is_dir($path) ? array_filter(glob(rtrim($path, '/') . '/*') ?: [], static fn(string $file): bool => in_array(strtolower(pathinfo($file, PATHINFO_EXTENSION)), ['mkv', 'webm', 'ogv', 'mp4', 'mov', 'm4v', 'zip'], true)) : [];
            array_push($films, ...($inside === [] ? [$path] : array_values($inside)));
        }

        return $films === [$footage[0]] ? null : $films;
    }

    /**
     * Each into a folder under its own name, and what was done of each in a table; the exit code is the first that is not 0.
     *
     * @param list<string> $films
     */
    private function several(FileProcess $process, array $films, string $folder, ProcessOrder $order): int
    {
        if (!is_dir($folder) || !is_writable($folder)) {
            return $this->refuse(2, "For several files --out is a folder that can be written to; {$folder} is none.");
        }
        if ($order->mattes !== null || $order->tracks !== null) {
            return $this->refuse(2, '--mattes and --tracks are for one file.');
        }
        $extension = ($order->as ?? Format::Ffv1)->extension();
        $exit = 0;
        $table = fopen("{$folder}/table.csv", 'w') ?: throw new \RuntimeException("{$folder}/table.csv cannot be written.");
        fputcsv($table, ['footage', 'out', 'first', 'last', 'seconds', 'exit', 'told'], escape: '');
        foreach ($films as $film) {
            $out = "{$folder}/" . pathinfo($film, PATHINFO_FILENAME) . ".{$extension}";
            $began = hrtime(true);
            [$code, $frames, $words] = $this->one($process, $film, $out, $order);
            fputcsv($table, [$film, $code === 0 ? $out : '', ...($frames ?? ['', '']), sprintf('%.1f', (hrtime(true) - $began) / 1e9), $code, implode('. ', $words)], escape: '');
            $exit = $exit === 0 ? $code : $exit;
            if ($code === 130) {
                break;
            }
        }
        fclose($table);

        return $exit;
    }

    /** @return array{int, array{int, int}|null, list<string>} exit code, frames, and what is to be told */
    private function one(FileProcess $process, string $footage, string $out, ProcessOrder $order): array
    {
        $failed = fn(int $exit, string $reason): array => [$this->refuse($exit, $reason), null, [$reason]];
        try {
            ['frames' => $frames, 'words' => $words] = $process->run($footage, $out, $order, fn(string $line) => $this->output->getErrorStyle()->writeln($line));
            array_map(fn(string $line) => $this->output->getErrorStyle()->writeln("told: {$line}"), $words);

            return [0, $frames, $words];
        } catch (FileProcessFailed $e) {
            return $failed($e->exit, $e->getMessage());
        } catch (UnreadableFootage|RefusedFootage $e) {
            return $failed(3, "{$footage}: {$e->getMessage()}");
        } catch (InvalidRecipe|InvalidCube|MissingAsset|MissingTrack $e) {
            return $failed(4, "{$order->recipe}: {$e->getMessage()}");
        } catch (TooLittleTexture $e) {
            return $failed(5, $e->getMessage());
        } catch (FfmpegFailed|FfmpegInterrupted|StorageFull|TooCostly|CannotFindFaces $e) {
            return $failed(6, $e->getMessage());
        }
    }

    private function refuse(int $exit, string $reason): int
    {
        $this->output->getErrorStyle()->writeln("cossel process: {$reason}");

        return $exit;
    }
}
