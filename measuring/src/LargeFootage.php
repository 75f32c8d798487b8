<?php

declare(strict_types=1);

namespace Cossel\Measuring;

use App\Faces\Faces;
use App\Following\AreaFollower;
use App\Footage\FootageFile;
use App\Footage\FrameCache;
use App\Footage\FrameReader;
use App\Footage\Probe;
use App\Pictures\BenchPictures;
use App\Pictures\View;
use App\Pictures\Wanted;
use App\Treatment\Renderers;
use Cossel\Core\Recipe\RecipeReader;
use Illuminate\Filesystem\Filesystem;
use Symfony\Component\Process\Process;

/** Footage larger and longer than the demo's, made for measuring, and what it takes to look at it and to follow in it. */
final class LargeFootage
{
    private string $folder = '';

    public function __construct(private readonly Probe $probe, private readonly FrameReader $frames, private readonly RecipeReader $reader, private readonly Renderers $renderers) {}

    /**
     * A demo shot forwards and backwards, scaled, with the noise of a camera.
     *
     * @return array{FootageFile, float} it, and the seconds it took to bring it in
     */
    public function made(string $folder, string $scale, int $frames): array
    {
        $this->folder = $folder;
        $path = "{$folder}/large.mp4";
        $turns = intdiv($frames, 168);
        $graph = "[0:v]split[a][b];[b]reverse[c];[a][c]concat,loop={$turns}:168,{$scale},noise=alls=3:allf=t";
        (new Process(['ffmpeg', '-v', 'error', '-nostdin', '-y', '-i', base_path('demo/footage/gh010_backlit.webm'), '-filter_complex', $graph, '-frames:v', (string) $frames, '-an', '-c:v', 'libx264', '-preset', 'veryfast', '-crf', '18', '-pix_fmt', 'yuv420p', '-colorspace', 'bt709', '-color_primaries', 'bt709', '-color_trc', 'bt709', $path], timeout: 600))->mustRun();
        $began = hrtime(true);
        $footage = new FootageFile($path, (string) hash_file('sha256', $path), $this->probe->read($path), 'large.mp4');

        return [$footage, (hrtime(true) - $began) / 1e9];
    }

    /**
     * @param array<string, mixed> $document
     * @param array<string, mixed> $before   the same before an edit
     *
     * @return \Generator<int, array{string, string, string, string}>
     */
    public function shown(string $section, FootageFile $footage, array $document, array $before): \Generator
    {
        $cache = $this->cache();
        $pictures = new BenchPictures($cache, $this->renderers);
        [$recipe, $standing] = [$this->reader->read($document), $this->reader->read($before)];
        $show = static fn(int $number, int $rows, bool $patch): float => self::seconds(static fn() => $pictures->showing($footage, $recipe, new Wanted($number, View::Result, null, $rows), $patch ? $standing : null)->picture($number));
        yield [$section, 'first picture at the bench’s size, nothing decoded yet', sprintf('%.2f s', $show(0, 540, false)), ''];
        $seconds = self::seconds(static fn() => $cache->prepare($footage, 0, 47, 540, 270));
        yield [$section, 'decoded ahead in two sizes', sprintf('%.1f frames/s', 48 / $seconds), ''];
        $show(1, 540, true);
        $rates = [];
        foreach ([540, 270] as $rows) {
            $seconds = array_sum(array_map(static fn(int $number): float => $show($number, $rows, true), range(2, 13)));
            $rates[] = sprintf('%.1f', 12 / $seconds);
        }
        yield [$section, 'played after an edit of the face, made at 540 and 270 rows, one core', implode(', ', $rates) . ' frames/s', ''];
        yield [$section, 'the same picture in full size', sprintf('%.1f s', $show(2, 2160, false)), ''];
        $cache->empty();
    }

    /**
     * @param array<string, mixed> $document a finished shot's
     *
     * @return \Generator<int, array{string, string, string, string}>
     */
    public function followed(string $section, FootageFile $footage, array $document): \Generator
    {
        $cache = $this->cache();
        $pictures = new BenchPictures($cache, $this->renderers);
        $untreated = $this->reader->read(Samples::recipe($footage));
        $show = static fn(int $number, int $rows): float => self::seconds(static fn() => $pictures->showing($footage, $untreated, new Wanted($number, View::Result, null, $rows))->picture($number));
        yield [$section, 'first picture', sprintf('%.2f s', $show(0, 540)), '1.5 s'];
        yield [$section, 'nine small ones all over, each from the keyframe before', sprintf('%.1f s', array_sum(array_map(static fn(int $number): float => $show($number, 270), range(0, 479, 59)))), ''];
        $cache->empty();
        $document['source'] = Samples::recipe($footage)['source'];
        foreach ($document['areas'] as &$area) {
            if (isset($area['motion']['track'])) {
                $area['motion']['track'] = null;
            }
        }
        unset($area);
        $recipe = $this->reader->read($document);
        $follower = new AreaFollower($cache, app(Faces::class));
        foreach (['followed, its frames decoded meanwhile' => '24 frames/s', 'followed again' => '40 frames/s'] as $what => $goal) {
            $seconds = self::seconds(static fn() => $follower->follow($footage, $recipe, $recipe->area('face'), null, [], 40, 0, 479));
            yield [$section, $what, sprintf('%.1f frames/s', 479 / $seconds), $goal];
        }
        $seconds = self::seconds(static fn() => $cache->prepare($footage, 0, 479, ...$cache->affordable($footage->info, 480, 540, 270, 180)));
        yield [$section, 'decoded ahead in the other sizes', sprintf('%.1f s', $seconds), ''];
        $bytes = array_sum(array_map(filesize(...), glob("{$this->folder}/frames/*/*/*/*.raw") ?: []));
        yield [$section, 'taken of the cache', sprintf('%.2f GB', $bytes / 1e9), '2 GB'];
    }

    private function cache(): FrameCache
    {
        return new FrameCache(new Filesystem(), $this->frames, "{$this->folder}/frames", 12 * 1024 ** 3, config('cossel.cache.footage_bytes'));
    }

    private static function seconds(callable $work): float
    {
        $began = hrtime(true);
        $work();

        return (hrtime(true) - $began) / 1e9;
    }
}
