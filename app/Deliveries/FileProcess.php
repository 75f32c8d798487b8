<?php

declare(strict_types=1);

namespace App\Deliveries;

use App\Carrying\CannotCarry;
use App\Carrying\CarryOver;
use App\Carrying\Scene;
use App\Faces\Crowds;
use App\Following\AreaFollower;
use App\Footage\FootageFile;
use App\Footage\FootageInfo;
use App\Footage\ImageSequence;
use App\Footage\Probe;
use App\Footage\UnreadableFootage;
use Cossel\Core\Carry\TreatmentFile;
use Cossel\Core\Motion\Motions;
use Cossel\Core\Motion\Step;
use Cossel\Core\Motion\Track;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\RecipeReader;
use Cossel\Core\Recipe\RecipeWriter;
use Cossel\Core\Render\FrameRenderer;
use Illuminate\Filesystem\Filesystem;
use Symfony\Component\Process\Process;

/** A file treated from start to end without database or interface: follow, render in parallel, put together. */
final class FileProcess
{
    /** In a folder of what is half done: held as long as somebody works in it. */
    private const HELD = 'held';

    public function __construct(
        private readonly Probe $probe,
        private readonly ImageSequence $sequence,
        private readonly RecipeReader $reader,
        private readonly RecipeWriter $writer,
        private readonly AreaFollower $follower,
        private readonly PartRenderer $parts,
        private readonly FolderAssets $assets,
        private readonly Finisher $finisher,
        private readonly MatteFiles $mattes,
        private readonly Filesystem $files,
        private readonly CarryOver $over,
        private readonly Crowds $crowds,
    ) {}

    /**
     * @param callable(string): void $say
     *
     * @return array{frames: array{int, int}, words: list<string>} what was rendered, and what could only be done so
     */
    public function run(string $footagePath, string $out, ProcessOrder $order, callable $say): array
    {
        $format = $order->as ?? Format::ofFile($out) ?? throw FileProcessFailed::use('--out must end in .mkv, .mov, .mp4, .webm or .zip.');
        if (!str_ends_with(strtolower($out), ".{$format->extension()}")) {
            throw FileProcessFailed::use("{$format->label()} goes into a file that ends in .{$format->extension()}.");
        }
        Encoding::isThere($format) || throw FileProcessFailed::rendering(DeliveryNotReady::lacks($format->label(), $format->encoder())->getMessage());
        $folder = dirname($out);
        if (!is_dir($folder) || !is_writable($folder)) {
            throw FileProcessFailed::use("The folder {$folder} cannot be written to.");
        }
        $document = $this->json($order->recipe);
        $out = realpath($folder) . '/' . basename($out);
        $assets = $order->assets === null ? null : (string) realpath($order->assets);
        $work = "{$out}.parts";
        $held = $this->hold($work);
        try {
            $footage = $this->footage($footagePath, $work);
            [$recipe, $laid, $words] = $this->recipe($document, $footage, $say);
            $this->assets->of($recipe, $assets)->check();
            [$from, $to] = $this->span($order->span ?? $recipe->source->span, $footage);
            $given = $order->given === null ? [] : TracksFile::read($this->json($order->given));
            $points = $order->points === null ? [] : TracksFile::points($this->json($order->points), $order->points, $recipe);
            [$recipe, $tracks] = $laid ?? $this->followed($recipe, $footage, $given, $say);
            if ($order->tracks !== null) {
                $this->files->put($order->tracks, TracksFile::written($recipe, $tracks, $points));
            }
            $this->crowds->prepare($recipe, $footage, $from, $to);
            if ($order->mattes !== null) {
                $this->mattes->write($this->renderer($recipe, $footage, $tracks, $assets), $recipe->areas, $footage, $from, $to, $order->mattes);
            }
            $parts = $this->render($recipe, $tracks, $assets, $footage, $format, $from, $to, $work, $order->workers, $say);
            $this->finisher->finish($footage, $format, $parts, $from, $to, $out);

            return ['frames' => [$from, $to], 'words' => $words];
        } finally {
            $this->files->deleteDirectory($work);
            fclose($held);
        }
    }

    /**
     * Makes the folder for what is half done, and clears away those beside it that were left by others that were killed.
     *
     * @return resource the lock that tells that somebody works in it
     */
    private function hold(string $work): mixed
    {
        foreach (glob(dirname($work) . '/*.parts', GLOB_ONLYDIR) ?: [] as $folder) {
            $lock = is_link($folder) ? false : @fopen("{$folder}/" . self::HELD, 'r');
            if ($lock !== false && flock($lock, LOCK_EX | LOCK_NB)) {
                $this->files->deleteDirectory($folder);
            } elseif ($lock !== false && $folder === $work) {
                throw FileProcessFailed::use('Another process writes this file already: ' . basename($work, '.parts') . '.');
            }
        }
        $this->files->deleteDirectory($work);
        $this->files->makeDirectory($work);
        $held = fopen("{$work}/" . self::HELD, 'ce');
        if ($held === false || !flock($held, LOCK_EX | LOCK_NB)) {
            throw FileProcessFailed::use("The folder {$work} cannot be written to.");
        }

        return $held;
    }

    /**
     * The recipe for this footage: as it is, or, where it was made for none, for all of its frames; a kept treatment is laid on whoever is
     * seen.
     *
     * @param callable(string): void $say
     *
     * @return array{Recipe, array{Recipe, array<string, Track>}|null, list<string>} the recipe, with its tracks where it was laid on, and
     *                                                                              what could only be done so
     */
    private function recipe(mixed $document, FootageFile $footage, callable $say): array
    {
        $info = $footage->info;
        $source = ['sha256' => $footage->sha256, 'span' => [0, $info->frames() - 1], 'rate' => $info->rate, 'size' => [$info->width, $info->height]];
        if (!TreatmentFile::is($document)) {
            return [$this->reader->read(is_array($document) && !isset($document['source']) ? [...$document, 'source' => $source] : $document), null, []];
        }
        $plain = $this->reader->read(['cossel' => Recipe::FORMAT, 'source' => $source]);
        try {
            $laid = $this->over->proposed(TreatmentFile::read($document, $this->reader), null, new Scene($footage, $plain), null, false, $say);
        } catch (CannotCarry $reason) {
            throw FileProcessFailed::following($reason->getMessage());
        }

        return [$laid->recipe, [$laid->recipe, $laid->tracks], $laid->words];
    }

    /** One worker's share, in a process of its own: what {@see render} wrote down for it. */
    public function part(string $order): void
    {
        $told = json_decode((string) file_get_contents($order), true, flags: JSON_THROW_ON_ERROR);
        $footage = new FootageFile($told['footage'], $told['sha256'], FootageInfo::fromArray($told['info']), $told['name']);
        $tracks = array_map(static fn(string $json): Track => Track::known(json_decode($json, true)), $told['tracks']);
        $recipe = $this->reader->read(json_decode($told['recipe'], true));
        $renderer = $this->renderer($recipe, $footage, $tracks, $told['assets']);
        foreach ($told['parts'] as [$from, $to, $file]) {
            $this->parts->render($footage, $renderer, Format::from($told['format']), $from, $to, $file, static fn(): bool => true);
        }
    }

    /** @param array<string, Track> $tracks by sha256 */
    private function renderer(Recipe $recipe, FootageFile $footage, array $tracks, ?string $assets): FrameRenderer
    {
        return new FrameRenderer($recipe, new Motions($recipe, $tracks, $this->crowds->in($footage, $recipe)), $this->assets->of($recipe, $assets));
    }

    private function footage(string $path, string $work): FootageFile
    {
        if (!file_exists($path)) {
            throw UnreadableFootage::because('there is no such file');
        }
        $path = (string) realpath($path);
        $name = basename($path);
        $sha256 = ImageSequence::sha256($path);
        if (ImageSequence::is($path)) {
            $this->sequence->toFootage($path, "{$work}/sequence.mkv");
            $path = "{$work}/sequence.mkv";
        }

        return new FootageFile($path, $sha256, $this->probe->read($path), $name);
    }

    /**
     * @param array{int, int} $span
     *
     * @return array{int, int}
     */
    private function span(array $span, FootageFile $footage): array
    {
        $last = $footage->info->frames() - 1;
        if ($span[0] > $span[1] || $span[1] > $last) {
            throw FileProcessFailed::use("Frames {$span[0]} to {$span[1]} are not within the footage, which has frames 0 to {$last}.");
        }

        return $span;
    }

    /**
     * Follows what the recipe asks for and no track was given for.
     *
     * @param array<string, Track>   $given by area, or by area and shape ("face/s2") for a shape's own
     * @param callable(string): void $say
     *
     * @return array{Recipe, array<string, Track>} the recipe naming its tracks, and these by sha256
     */
    private function followed(Recipe $recipe, FootageFile $footage, array $given, callable $say): array
    {
        $document = json_decode($this->writer->json($recipe), true);
        $wanted = TracksFile::wanted($recipe);
        foreach ($wanted as [$place]) {
            data_set($document, [...$place, 'track'], null);
        }
        $tracks = [];
        foreach ($wanted as $name => [$place, $area, $shape, $motion]) {
            $track = $given[$name] ?? null;
            if ($track === null) {
                $plain = $this->reader->read($document);
                $now = $plain->area($area);
                $track = $this->follower->follow($footage, $plain, $now, $shape === null ? null : $now->outline->shapes[$shape], $tracks, $motion->start, ...$motion->span, onStep: static function (int $frame, Step $step) use ($name, $say): bool {
                    $say(sprintf('follow %s: frame %d, confidence %.2f', $name, $frame, $step->confidence));

                    return true;
                });
            }
            $sha256 = hash('sha256', $track->json());
            $tracks[$sha256] = $track;
            data_set($document, [...$place, 'track'], ['sha256' => $sha256]);
        }

        return [$this->reader->read($document), $tracks];
    }

    /**
     * @param array<string, Track>   $tracks by sha256
     * @param callable(string): void $say
     *
     * @return non-empty-array<string, int> the part files in order, with the number of frames in each
     */
    private function render(Recipe $recipe, array $tracks, ?string $assets, FootageFile $footage, Format $format, int $from, int $to, string $work, int $workers, callable $say): array
    {
        $parts = [];
        $size = (int) config('cossel.frames_a_part');
        for ($first = $from; $first <= $to; $first += $size) {
            $parts[] = [$first, min($to, $first + $size - 1), sprintf('%s/%06d.mkv', $work, $first)];
        }
        $shares = [];
        foreach ($parts as $i => $part) {
            $shares[$i % $workers][] = $part;
        }
        $running = [];
        foreach ($shares as $n => $share) {
            $order = "{$work}/order-{$n}";
            $this->files->put($order, json_encode([
                'footage' => $footage->path,
                'sha256' => $footage->sha256,
                'info' => $footage->info->toArray(),
                'name' => $footage->name,
                'recipe' => $this->writer->json($recipe),
                'tracks' => array_map(static fn(Track $track): string => $track->json(), $tracks),
                'assets' => $assets,
                'format' => $format->value,
                'parts' => $share,
            ], JSON_THROW_ON_ERROR));
            $process = new Process(['setpriv', '--pdeathsig', 'KILL', PHP_BINARY, base_path('artisan'), 'cossel:process-part', $order], timeout: null);
            $process->start();
            $running[] = $process;
        }
        $failure = null;
        try {
            foreach ($running as $process) {
                if ($process->wait() !== 0) {
                    $failure = trim($process->getErrorOutput() . $process->getOutput());
                    break;
                }
            }
        } finally {
            array_map(static fn(Process $process) => $process->stop(0), $running);
        }
        if ($failure !== null) {
            throw FileProcessFailed::rendering('Rendering failed: ' . mb_strimwidth(strtok($failure, "\n") ?: 'no reason given', 0, 300, '…'));
        }
        $say(sprintf('rendered frames %d to %d', $from, $to));

        return array_column(array_map(static fn(array $part): array => [$part[2], $part[1] - $part[0] + 1], $parts), 1, 0);
    }

    private function json(string $path): mixed
    {
        $text = @file_get_contents($path);
        if ($text === false) {
            throw FileProcessFailed::use("{$path} cannot be read.");
        }
        try {
            return json_decode($text, true, flags: JSON_THROW_ON_ERROR);
        } catch (\JsonException $e) {
            throw FileProcessFailed::recipe("{$path} is not JSON: {$e->getMessage()}.");
        }
    }
}
