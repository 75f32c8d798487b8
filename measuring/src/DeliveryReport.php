<?php

declare(strict_types=1);

namespace Cossel\Measuring;

use App\Footage\FootageFile;
use App\Footage\FrameReader;
use Cossel\Core\Picture\Bytes;
use Cossel\Core\Recipe\RecipeReader;
use Cossel\Core\Render\FrameRenderer;
use Illuminate\Support\Facades\File;
use Symfony\Component\Process\Exception\ProcessFailedException;
use Symfony\Component\Process\Process;

/** How quickly footage is treated and delivered: beside a hand-written filter graph, by area, by length, and large. */
final class DeliveryReport
{
    private const SHOT = 'gh010_backlit';
    /** Shares of the frame that time is measured against. */
    private const SHARES = [0.05, 0.1, 0.2, 0.4, 0.8];
    /** Numbers of frames likewise. */
    private const LENGTHS = [12, 24, 48, 84];

    private string $folder = '';
    /** @var array{php: int, ffmpeg: int} MB that workers of the last process, and what they started, took at the most */
    private array $memory = ['php' => 0, 'ffmpeg' => 0];

    public function __construct(private readonly DemoShots $demo, private readonly FrameReader $frames, private readonly RecipeReader $reader, private readonly LargeFootage $large) {}

    /** @return \Generator<int, array{string, string, string, string}> section, what, measured, goal */
    public function rows(): \Generator
    {
        $this->folder = sys_get_temp_dir() . '/cossel-bench-' . getmypid();
        File::makeDirectory($this->folder);
        try {
            yield from $this->besideAFilterGraph();
            yield from $this->wholeFrames();
            yield from $this->workers();
            yield from $this->byArea();
            yield from $this->byLength();
            yield from $this->large();
        } finally {
            File::deleteDirectory($this->folder);
        }
    }

    /** @return \Generator<int, array{string, string, string, string}> */
    private function besideAFilterGraph(): \Generator
    {
        $section = 'exposure and temperature of a face, 84 frames of 1280x720 to FFV1 16 bit, CPU';
        $footage = $this->demo->named(self::SHOT)->footage;
        $recipe = Samples::recipe($footage, [], [Samples::face(0)]);
        $recipe['areas'][0]['touches'] = [['id' => 't1', 'kind' => 'exposure', 'stops' => 0.85], ['id' => 't2', 'kind' => 'colour', 'temperature' => -4]];
        $treated = $this->reader->read($recipe);
        $frame = iterator_to_array($this->frames->frames($footage, 40, 40))[40];
        $rect = $frame->format->rect();
        $mask = "{$this->folder}/mask.pgm";
        File::put($mask, "P5 {$rect->width} {$rect->height} 65535\n" . Bytes::grey16((new FrameRenderer($treated, (new DemoShot($footage, $recipe, [], $this->reader))->motions($treated)))->matte($frame, $treated->areas[0], 40, $rect)));
        $graph = self::cpu(fn() => $this->process([base_path('scripts/filter-graph.sh'), $footage->path, $mask, '84', "{$this->folder}/graph.mkv"]));
        $ours = self::cpu(fn() => $this->deliver($footage, $recipe, 0, 83, 1));
        $codecs = self::cpu(fn() => $this->process(['ffmpeg', '-v', 'error', '-nostdin', '-y', '-threads', '1', '-i', $footage->path, '-an', '-pix_fmt', 'yuv444p16le', '-c:v', 'ffv1', '-level', '3', '-coder', '1', '-g', '1', '-slices', '4', '-threads', '1', "{$this->folder}/plain.mkv"]));
        yield [$section, 'scripts/filter-graph.sh, the whole frame under a still mask', sprintf('%.1f s', $graph), ''];
        yield [$section, 'here, with all that belongs to a delivery', sprintf('%.1f s', $ours), ''];
        yield [$section, 'here over the filter graph', sprintf('%.2f', $ours / $graph), '0.6'];
        yield [$section, 'decoding and encoding alone, nothing treated', sprintf('%.1f s, %.2f of the filter graph', $codecs, $codecs / $graph), ''];
    }

    /** @return \Generator<int, array{string, string, string, string}> */
    private function wholeFrames(): \Generator
    {
        foreach (['gh010_backlit' => '', 'gh020_laugh' => '', 'gh030_gaze' => '', 'gh040_skin' => '350 ms'] as $name => $goal) {
            $shot = $this->demo->named($name);
            $recipe = $shot->recipe();
            $renderer = new FrameRenderer($recipe, $shot->motions($recipe));
            $frames = iterator_to_array($this->frames->frames($shot->footage, 36, 41));
            $renderer->frame($frames[36], 36);
            $renderer->frame($frames[37], 37);
            $seconds = self::cpu(static function () use ($renderer, $frames): void {
                for ($number = 38; $number <= 41; ++$number) {
                    $renderer->frame($frames[$number], $number);
                }
            });
            yield ['a whole frame of 1280x720 as finished, one core, CPU', $name, sprintf('%.0f ms', 250 * $seconds), $goal];
        }
    }

    /** @return \Generator<int, array{string, string, string, string}> */
    private function workers(): \Generator
    {
        $section = 'delivery at 1280x720, base and six areas, FFV1 16 bit';
        $footage = $this->demo->named(self::SHOT)->footage;
        $recipe = self::six($footage);
        // Starting, probing and decoding the first frames are taken off: a delivery does them once, whatever its length.
        $times = [];
        foreach ([1, 2] as $workers) {
            $times[$workers] = self::seconds(fn() => $this->deliver($footage, $recipe, 24, 71, $workers)) - self::seconds(fn() => $this->deliver($footage, $recipe, 24, 23 + 12 * $workers, $workers));
        }
        $rates = [1 => 36 / $times[1], 2 => 24 / $times[2]];
        yield [$section, 'one worker', sprintf('%.2f frames/s', $rates[1]), '3 frames/s'];
        yield [$section, 'a second worker gives', sprintf('%.2f x', $rates[2] / $rates[1]), '1.8 x'];
        yield [$section, 'peak memory of a worker', $this->memory(), '300 MB'];
    }

    /** @return \Generator<int, array{string, string, string, string}> */
    private function byArea(): \Generator
    {
        $footage = $this->demo->named(self::SHOT)->footage;
        $frame = iterator_to_array($this->frames->frames($footage, 40, 40))[40];
        $points = [];
        foreach (self::SHARES as $share) {
            // A box as wide as the frame, so that the area's share is that of its pixels.
            $area = ['id' => 'box', 'outline' => ['at' => 40, 'shapes' => [['id' => 's1', 'kind' => 'box', 'centre' => [16 / 18, 0.5], 'radii' => [8 / 9, $share / 2]]]]] + Samples::face(3);
            $recipe = $this->reader->read(Samples::recipe($footage, [], [$area]));
            $renderer = new FrameRenderer($recipe, (new DemoShot($footage, [], [], $this->reader))->motions($recipe));
            $renderer->frame($frame, 40);
            // The least of some: what others do on the machine only ever adds.
            $points[] = [100 * $share, 1000 * min(array_map(static fn(): float => self::cpu(static fn() => $renderer->frame($frame, 40)), range(1, 5)))];
        }
        yield ['time against treated area, three touches, ms a frame of 1280x720', 'at 5, 10, 20, 40 and 80 % of the frame', implode(', ', array_map(static fn(array $p): string => sprintf('%.0f', $p[1]), $points)), ''];
        yield ['time against treated area, three touches, ms a frame of 1280x720', 'the straight line through them', self::line($points, 'ms', '% of the frame'), 'through nearly zero'];
    }

    /** @return \Generator<int, array{string, string, string, string}> */
    private function byLength(): \Generator
    {
        $section = 'time against length, delivery of base and six areas, one worker';
        $footage = $this->demo->named(self::SHOT)->footage;
        $points = [];
        foreach (self::LENGTHS as $frames) {
            $points[] = [$frames, self::seconds(fn() => $this->deliver($footage, self::six($footage), 0, $frames - 1, 1))];
        }
        yield [$section, 'at ' . implode(', ', self::LENGTHS) . ' frames', implode(', ', array_map(static fn(array $p): string => sprintf('%.1f s', $p[1]), $points)), ''];
        yield [$section, 'the straight line through them', self::line($points, 's', 'frame'), 'through nearly zero'];
    }

    /** @return \Generator<int, array{string, string, string, string}> */
    private function large(): \Generator
    {
        $section = '3840x2160, 48 frames, upscaled from gh010_backlit, H.264';
        [$footage, $took] = $this->large->made($this->folder, 'scale=3840:2160:flags=bicubic', 48);
        $recipe = Samples::recipe($footage, Samples::base(), [Samples::face(3)]);
        yield [$section, 'brought in: every frame decoded, checked and known by its time', sprintf('%.1f s', $took), ''];
        yield from $this->large->shown($section, $footage, $recipe, Samples::recipe($footage, Samples::base(), [Samples::face(2)]));
        $seconds = self::seconds(fn() => $this->deliver($footage, $recipe, 0, 23, 2)) - self::seconds(fn() => $this->deliver($footage, $recipe, 0, 1, 2));
        yield [$section, 'delivered, base and a face, FFV1 16 bit, two workers', sprintf('%.2f frames/s', 22 / $seconds), ''];
        yield [$section, 'peak memory of a worker', $this->memory(), '600 MB'];
        $section = 'twenty seconds of 1920x1080, 480 frames, H.264 with a keyframe every ten seconds';
        [$footage, $took] = $this->large->made($this->folder, 'scale=1920:1080:flags=bicubic', 480);
        yield [$section, 'brought in', sprintf('%.1f s', $took), ''];
        yield from $this->large->followed($section, $footage, $this->demo->named(self::SHOT)->document);
    }

    /** @return array<string, mixed> */
    private static function six(FootageFile $footage): array
    {
        $areas = [Samples::face(3)];
        foreach (['b' => 0.4, 'c' => 0.6, 'd' => 0.8, 'e' => 1.0, 'f' => 1.4] as $id => $x) {
            $areas[] = Samples::small($id, $x);
        }

        return Samples::recipe($footage, Samples::base(), $areas);
    }

    /** @param array<string, mixed> $recipe */
    private function deliver(FootageFile $footage, array $recipe, int $from, int $to, int $workers): void
    {
        File::put("{$this->folder}/recipe.json", (string) json_encode($recipe));
        $this->process([PHP_BINARY, base_path('artisan'), 'cossel:process', '--footage', $footage->path, '--recipe', "{$this->folder}/recipe.json", '--out', "{$this->folder}/out.mkv", '--frames', "{$from}-{$to}", '--workers', (string) $workers]);
    }

    /**
     * A jail would not hand on the processor time of what it holds.
     *
     * @param list<string> $command
     */
    private function process(array $command): void
    {
        $process = new Process($command, base_path(), ['COSSEL_JAIL' => 'no'], timeout: 1200);
        $process->start();
        $this->memory = ['php' => 0, 'ffmpeg' => 0];
        while ($process->isRunning()) {
            // Seldom: looking costs processor time, too.
            usleep(500_000);
            $this->noteMemory();
        }
        if (!$process->isSuccessful()) {
            throw new ProcessFailedException($process);
        }
    }

    /** The most that a process of a kind, which takes part in what runs, has taken so far. */
    private function noteMemory(): void
    {
        foreach (glob('/proc/[0-9]*/cmdline') ?: [] as $file) {
            $command = (string) @file_get_contents($file);
            $kind = str_contains($command, 'cossel:process-part') ? 'php' : (str_contains($command, $this->folder) && str_starts_with($command, 'ffmpeg') ? 'ffmpeg' : null);
            if ($kind !== null && preg_match('/^VmHWM:\s+(\d+)/m', (string) @file_get_contents(dirname($file) . '/status'), $peak) === 1) {
                $this->memory[$kind] = max($this->memory[$kind], intdiv((int) $peak[1], 1024));
            }
        }
    }

    private function memory(): string
    {
        return "{$this->memory['php']} MB; its encoder, ffmpeg’s FFV1, {$this->memory['ffmpeg']} MB";
    }

    private static function seconds(callable $work): float
    {
        $began = hrtime(true);
        $work();

        return (hrtime(true) - $began) / 1e9;
    }

    /** Processor time of this process and of all it waited for, in seconds. */
    private static function cpu(callable $work): float
    {
        $now = static function (): float {
            [$own, $others] = [getrusage(), getrusage(1)];
            $sum = 0.0;
            foreach ([$own, $others] as $usage) {
                foreach (['ru_utime', 'ru_stime'] as $kind) {
                    $sum += ($usage["{$kind}.tv_sec"] ?? 0) + ($usage["{$kind}.tv_usec"] ?? 0) / 1e6;
                }
            }

            return $sum;
        };
        $began = $now();
        $work();

        return $now() - $began;
    }

    /** @param list<array{float|int, float}> $points */
    private static function line(array $points, string $unit, string $each): string
    {
        $n = count($points);
        $mx = array_sum(array_column($points, 0)) / $n;
        $my = array_sum(array_column($points, 1)) / $n;
        $xx = $xy = 0.0;
        foreach ($points as [$x, $y]) {
            $xx += ($x - $mx) ** 2;
            $xy += ($x - $mx) * ($y - $my);
        }
        $slope = $xy / $xx;
        $start = $my - $slope * $mx;
        $off = max(array_map(static fn(array $p): float => abs($p[1] - $start - $slope * $p[0]), $points));

        return sprintf('%.1f %s + %.2f %s a %s, no point further off than %.1f %s', $start, $unit, $slope, $unit, $each, $off, $unit);
    }
}
