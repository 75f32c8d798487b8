<?php

declare(strict_types=1);

namespace Cossel\Measuring;

use App\Footage\FootageFile;
use App\Footage\FrameCache;
use App\Footage\Probe;
use App\Pictures\BenchPictures;
use App\Pictures\View;
use App\Pictures\Wanted;
use Cossel\Core\Geometry\Extent;
use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Motion\Motions;
use Cossel\Core\Picture\AreaPicture;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\RecipeReader;
use Cossel\Core\Render\FrameRenderer;
use Cossel\Core\Touch\Kinds;
use Cossel\Core\Touch\Site;
use Cossel\Core\Touch\Survey;
use Illuminate\Console\Command;
use Illuminate\Support\Facades\File;
use Symfony\Component\Process\Process;

/** Measures speed, memory and accuracy on the demo footage and prints them beside the goals. */
final class Bench extends Command
{
    protected $signature = 'cossel:bench {what=all : all, person, real (part of person, alone), follow, treat, telltales, carry, speed or delivery} {--write= : with person, follow, carry, treat or delivery, also writes the figures to this file, as docs/accuracy.md and docs/speed.md}';

    protected $description = 'Prints measured speed and accuracy beside the goals';

    private const SHOT = 'gh010_backlit';

    public function handle(Probe $probe, FrameCache $frames, BenchPictures $pictures, RecipeReader $reader, Kinds $kinds, FollowReport $follow, TreatReport $treat, TelltaleReport $telltales, DeliveryReport $delivery, PersonReport $person, PeopleReport $people, RealReport $real, CarryReport $carry): int
    {
        $what = $this->argument('what');
        if ($what === 'all' || $what === 'person') {
            $this->figures((static function () use ($person, $people, $real): \Generator {
                yield from $person->rows();
                yield from $people->rows();
                yield from $real->rows();
            })(), 'Accuracy: Finding people', 'person', self::accuracy('Finding people', ' and others against their ground truth, every 12th frame'));
        }
        if ($what === 'real') {
            $this->figures($real->rows(), 'Accuracy: A real man', 'real', self::accuracy('A real man', ' against points seen by eye'));
        }
        if ($what === 'all' || $what === 'follow') {
            $this->figures($follow->rows(), 'Accuracy: Following', 'follow', self::accuracy('Following', ' against their ground truth'));
        }
        if ($what === 'all' || $what === 'treat') {
            $this->figures($treat->rows(), 'Accuracy: Treating', 'treat', self::accuracy('Treating', ' against their ground truth'));
        }
        if ($what === 'all' || $what === 'carry') {
            $this->figures($carry->rows(), 'Accuracy: Carrying', 'carry', self::accuracy('Carrying', ' carried to each other'));
        }
        if ($what === 'all' || $what === 'telltales') {
            $this->figures($telltales->rows(), 'Accuracy: Tell-tales', 'telltales', self::accuracy('Tell-tales', ''));
        }
        if ($what === 'all' || $what === 'delivery') {
            $this->figures($delivery->rows(), 'Speed', 'delivery', ['Measured on a machine of two cores, with footage made for it where it is larger than the demo’s.']);
        }
        if ($what !== 'all' && $what !== 'speed') {
            return 0;
        }
        $path = base_path('demo/footage/' . self::SHOT . '.webm');
        $footage = new FootageFile($path, (string) hash_file('sha256', $path), $probe->read($path), basename($path));
        foreach ([720, 540, 360, 180] as $height) {
            $frames->prepare($footage, 0, $footage->info->frames() - 1, $height);
        }
        $this->speed($footage, $frames, $pictures, $reader);
        $this->touches($kinds, $frames->frame($footage, 40, 720));
        $this->browser();

        return 0;
    }

    /** @return array{string, string} */
    private static function accuracy(string $title, string $against): array
    {
        return ["Measured on the demo shots{$against}.", "How each figure is defined: [formulas.md](formulas.md), “{$title}”. Speeds are those of the machine that wrote this file."];
    }

    /**
     * @param iterable<array{string, string, string, string}> $rows  section, what, measured, goal
     * @param list<string>                                    $words before and after the command, in what is written
     */
    private function figures(iterable $rows, string $title, string $what, array $words): void
    {
        $last = null;
        $lines = [];
        foreach ($rows as [$section, $measure, $measured, $goal]) {
            if ($section !== $last) {
                $this->components->twoColumnDetail("<options=bold>{$section}</>");
                array_push($lines, '', "## {$section}", '', '| what | measured | goal |', '|---|---|---|');
                $last = $section;
            }
            $this->row($measure, $measured, $goal);
            $lines[] = "| {$measure} | {$measured} | {$goal} |";
        }
        $file = $this->option('write');
        if (is_string($file)) {
            $head = ["# {$title}", '', "{$words[0]} Printed and written here by", '', "    ./cossel bench {$what} --write={$file}", ...array_merge(...array_map(static fn(string $line): array => ['', $line], array_slice($words, 1)))];
            File::put($file, implode("\n", [...$head, ...$lines]) . "\n");
        }
    }

    private function speed(FootageFile $footage, FrameCache $frames, BenchPictures $pictures, RecipeReader $reader): void
    {
        $this->components->twoColumnDetail('<options=bold>pictures at 960x540, in this process (the browser adds the way there and back)</>');
        $face = $reader->read(Samples::recipe($footage, areas: [Samples::face(3)]));
        $all = $reader->read(Samples::recipe($footage, Samples::base(), [Samples::face(3), Samples::small('b', 0.5), Samples::small('c', 0.9)]));
        $before = $reader->read(Samples::recipe($footage, areas: [Samples::face(2)]));
        $draw = static fn(Recipe $recipe, int $height, ?Recipe $standing = null) => $pictures->showing($footage, $recipe, new Wanted(40, View::Result, null, $height), $standing)->picture(40);
        $this->row('drag a control, face-size area, 3 touches: reduced, while it moves', self::median(static fn() => $draw($face, 270, $before)), '40 ms in the browser');
        $this->row('the same at full size, when it rests', self::median(static fn() => $draw($face, 540, $before)), '');
        $this->row('drag a base control: reduced picture', self::median(static fn() => $draw($all, 270), 5), '70 ms in the browser');
        $this->row('the same, full picture', self::median(static fn() => $draw($all, 540), 5), '200 ms');
        $this->row('step to a frame not rendered yet, three areas', self::median(static fn() => $draw($reader->read(Samples::recipe($footage, areas: [Samples::face(3), Samples::small('b', 0.5), Samples::small('c', 0.9)])), 540), 5), '200 ms');
        $this->row('nine witnesses', self::median(static function () use ($pictures, $footage, $face): void {
            array_map($pictures->witnesses($footage, $face, View::Result, $face->areas[0], 172, 156), range(0, 80, 10));
        }, 3), '300 ms, on two cores');
        $two = static fn(int $touches): Recipe => $reader->read(Samples::recipe($footage, Samples::base(), [Samples::face($touches), Samples::small('b', 0.5), Samples::small('c', 0.9)]));
        $rate = static function (Recipe $recipe, ?Recipe $standing) use ($pictures, $footage): string {
            $showing = $pictures->showing($footage, $recipe, new Wanted(40, View::Result, null, 540), $standing);
            $showing->picture(39);

            return sprintf('%.1f frames/s', 8000 / self::milliseconds(static fn() => array_map($showing->picture(...), range(40, 47)), 3));
        };
        $this->row('played after an edit of a face, base and three areas, one core', $rate($two(3), $two(2)), '15 frames/s a core');
        $this->row('the same after an edit of the base, whole pictures', $rate($two(3), null), '7 frames/s a core');
        $small = $reader->read(Samples::recipe($footage, areas: [Samples::small('s', 0.6)]));
        $frame = $frames->frame($footage, 40, 720);
        $cost = static fn(Recipe $recipe): float => self::milliseconds(static fn() => self::render($recipe, $frame), 7);
        $share = static fn(Recipe $recipe): float => array_sum(array_map(static fn(Rect $r): int => $r->count(), (new FrameRenderer($recipe, new Motions($recipe, [])))->touched($frame, 40))) / $frame->format->rect()->count();
        $this->row('cost follows the area', sprintf('%.1f %% of the frame: %.0f ms, %.1f %%: %.0f ms', 100 * $share($small), $cost($small), 100 * $share($face), $cost($face)), 'in proportion');
    }

    private static function render(Recipe $recipe, Frame $frame): void
    {
        $renderer = new FrameRenderer($recipe, new Motions($recipe, []));
        foreach ($renderer->touched($frame, 40) as $rect) {
            foreach ($renderer->bands($frame, 40, $rect) as $_) {
                // Rendering is lazy: going through the bands is the work.
            }
        }
    }

    /** What the browser sees, where one is installed. */
    private function browser(): void
    {
        $this->components->twoColumnDetail('<options=bold>in the browser, 1280x800, five areas on the shot</>');
        $process = new Process(['node', base_path('scripts/latency.mjs')], base_path(), timeout: 300);
        $process->run();
        $told = json_decode($process->getOutput(), true);
        if (!is_array($told)) {
            $this->row('drag latency', 'not measured: ' . (strtok(trim($process->getErrorOutput()), "\n") ?: 'no browser'), '');

            return;
        }
        $this->row('drag a control, face-size area, 3 touches, to the picture changed: median, 95 %', "{$told['area'][0]} ms, {$told['area'][1]} ms", '40 ms, 70 ms');
        $this->row('drag a base control, to the reduced picture changed: median, 95 %', "{$told['base'][0]} ms, {$told['base'][1]} ms", '70 ms');
        $this->row('open the bench on a shot', "{$told['opened']} ms", '700 ms');
        $process = new Process(['node', base_path('scripts/playing.mjs')], base_path(), timeout: 600);
        $process->run();
        $told = json_decode($process->getOutput(), true);
        foreach (is_array($told) ? ['face' => 'an exposure edit of a face, base and outside standing', 'teeth' => 'a teeth edit'] : [] as $name => $edit) {
            foreach (['first' => 'played at once', 'again' => 'played again'] as $round => $words) {
                $of = $told[$name][$round];
                $this->row("after {$edit}, {$words}: first move, rate, frames left out, coarser", "{$of['first']} ms, {$of['rate']} frames/s, {$of['late']}, {$of['coarse']} %", '300 ms, 24 frames/s, 0');
            }
        }
        if (!is_array($told)) {
            $this->row('playing after an edit', 'not measured: ' . (strtok(trim($process->getErrorOutput()), "\n") ?: 'no browser'), '');
        }
    }

    private function touches(Kinds $kinds, Frame $frame): void
    {
        $this->components->twoColumnDetail('<options=bold>cost of a touch in an area of 240x260, ns a pixel</>');
        foreach ($kinds->list() as $kind) {
            foreach (Samples::settings($kind) as $label => $values) {
                $rect = Rect::of(560, 200, 240, 260);
                $planes = $frame->window($frame->format->rect());
                $matte = Grey::filled($rect, 1.0);
                $site = new Site(40, $frame, new BenchAssets($frame), new Extent(Matrix::identity(), 0.94, 0.46, 0.167, 0.18), $rect);
                $weight = Weight::inside($matte, 0.5);
                $ms = self::milliseconds(static function () use ($kind, $values, $site, $planes, $matte, $weight): void {
                    $does = $kind->prepare($values, $site);
                    if ($does instanceof Survey) {
                        $does = $does->effect(AreaPicture::of($does->sees(), $does->block(), $planes, $matte));
                    }
                    $does->apply($planes, $weight);
                }, 7);
                $this->row($label, sprintf('%.0f ns', $ms * 1e6 / $rect->count()), '');
            }
        }
    }

    private function row(string $what, string $measured, string $goal): void
    {
        $this->components->twoColumnDetail($what, $measured . ($goal === '' ? '' : "   <fg=gray>goal {$goal}</>"));
    }

    /** @param callable(): mixed $work */
    private static function median(callable $work, int $rounds = 9): string
    {
        return sprintf('%.0f ms', self::milliseconds($work, $rounds));
    }

    /**
     * The median, after one round to warm up where there are several.
     *
     * @param callable(): mixed $work
     */
    private static function milliseconds(callable $work, int $rounds = 1): float
    {
        $times = [];
        for ($i = $rounds > 1 ? -1 : 0; $i < $rounds; ++$i) {
            $began = hrtime(true);
            $work();
            if ($i >= 0) {
                $times[] = (hrtime(true) - $began) / 1e6;
            }
        }
        sort($times);

        return $times[intdiv(count($times), 2)];
    }
}
