<?php

declare(strict_types=1);

namespace Cossel\Measuring;

use App\Carrying\CarryOver;
use App\Carrying\Scene;
use App\Footage\FootageFile;
use App\Footage\FrameCache;
use App\Footage\Probe;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\Source;
use Illuminate\Support\Facades\File;
use Symfony\Component\Process\Process;

/** Treatments carried to other shots of the same people, and to copies of their own whose light was changed by known amounts. */
final class CarryReport
{
    private const TO = ['gh010_backlit' => 'gh050_leaf', 'gh030_gaze' => 'gh040_skin', 'gh040_skin' => 'gh060_two'];
    /** What befalls a copy, as ffmpeg filters on linear light. */
    private const LIGHTS = [
        'a stop darker' => 'zscale=transfer=linear:npl=100,format=gbrpf32le,exposure=exposure=-1,zscale=transfer=bt709:matrix=bt709:range=tv,format=yuv420p10le',
        '400 K warmer' => 'colortemperature=temperature=6100:mix=1,format=yuv420p10le',
        'saturation 80 %' => 'hue=s=0.8,format=yuv420p10le',
    ];

    public function __construct(private readonly Probe $probe, private readonly DemoShots $demo, private readonly CarryOver $over, private readonly FrameCache $frames) {}

    /** @return \Generator<int, array{string, string, string, string}> section, what, measured, goal */
    public function rows(): \Generator
    {
        foreach (self::TO as $from => $to) {
            yield from $this->carried("{$from} to {$to}", $from, base_path("demo/footage/{$to}.webm"));
        }
        foreach (['gh020_laugh', 'gh040_skin'] as $name) {
            foreach (self::LIGHTS as $words => $filter) {
                $copy = storage_path("framework/cache/carry_{$name}.mkv");
                (new Process(['ffmpeg', '-v', 'error', '-y', '-i', base_path("demo/footage/{$name}.webm"), '-vf', $filter, '-color_primaries', 'bt709', '-color_trc', 'bt709', '-colorspace', 'bt709', '-color_range', 'tv', '-c:v', 'ffv1', $copy], timeout: 600))->mustRun();
                yield from $this->carried("{$name} to itself, {$words}", $name, $copy);
                File::delete($copy);
            }
        }
    }

    /** @return \Generator<int, array{string, string, string, string}> */
    private function carried(string $section, string $from, string $path): \Generator
    {
        $demo = $this->demo->named($from);
        $source = $demo->recipe();
        $there = new FootageFile($path, (string) hash_file('sha256', $path), $this->probe->read($path), basename($path));
        foreach ([$demo->footage, $there] as $footage) {
            foreach ([270, 540] as $rows) {
                $this->frames->prepare($footage, 0, $footage->info->frames() - 1, $rows);
            }
        }
        $info = $there->info;
        $target = new Recipe(new Source($there->sha256, [0, $info->frames() - 1], $info->rate, [$info->width, $info->height]));
        $person = $source->areas[0]->person;
        $areas = array_column(array_filter($source->areas, static fn(Area $area): bool => $area->person === $person), 'id');
        $began = hrtime(true);
        $from = new Scene($demo->footage, $source, $demo->tracks);
        $treatment = $this->over->treatment($from, ['areas' => array_values($areas), 'base' => $source->base !== [], 'finish' => false, 'match' => true]);
        $proposed = $this->over->proposed($treatment, $from, new Scene($there, $target), $treatment->areas[0]->person ?? null, false, static fn(string $doing) => null);
        $seconds = (hrtime(true) - $began) / 1e9;
        foreach ($proposed->misses as $id => [$before, $after]) {
            yield [$section, "{$proposed->recipe->area($id)->name}: its mean to that of the source, before and after", sprintf('%.1f, %.2f CIEDE2000', $before, $after), '2.0'];
        }
        yield [$section, 'found, followed and matched, one core', sprintf('%.1f s', $seconds), '30 s'];
        foreach ($proposed->words as $word) {
            yield [$section, 'told', $word, ''];
        }
    }
}
