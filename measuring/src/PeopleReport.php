<?php

declare(strict_types=1);

namespace Cossel\Measuring;

use App\Faces\Faces;
use App\Footage\FootageFile;
use App\Footage\FrameCache;
use App\Footage\Probe;
use Cossel\Core\Outline\PeopleShapeMatte;
use Cossel\Core\Recipe\People;

/** How well the matte of people keeps to their edge on every 12th frame of the footage with truth, and how still that is from frame to frame. */
final class PeopleReport
{
    private const SHOTS = ['gh010_backlit', 'gh020_laugh', 'gh030_gaze', 'gh040_skin', 'gh050_leaf', 'gh060_two', 'mouth_kei', 'turn_ruta'];
    private const REAL = ['talk', 'turn', 'near', 'calm'];
    private const ROWS = 720;
    private const EVERY = 12;
    /** Labels of what ends where, and how near the edge must be, pixels. */
    private const NEAR = ['hair' => 6, 'clothes' => 3, 'skin' => 3];
    private const HAIR = 8;
    private const CLOTHES = 10;
    /** Frames in a row, in the middle of a shot, that stillness is measured on. */
    private const ROW = 12;
    /** How steep the matte must be for its edge to be a place, a pixel; and what further jumps count as, pixels. */
    private const STEEP = 0.08;
    private const MOST = 10.0;

    public function __construct(private readonly Probe $probe, private readonly FrameCache $frames, private readonly Faces $faces) {}

    /** @return \Generator<int, array{string, string, string, string}> section, what, measured, goal */
    public function rows(): \Generator
    {
        $all = [];
        foreach (self::SHOTS as $shot) {
            $footage = $this->footage(base_path("demo/footage/{$shot}.webm"));
            $labels = new LabelPictures(base_path("demo/truth/labels/{$shot}.zip"));
            $near = array_fill_keys(array_keys(self::NEAR), [0, 0]);
            $wrong = $people = 0;
            for ($frame = 0; $frame < $footage->info->frames(); $frame += self::EVERY) {
                [$matte, $width, $height] = $this->matte($footage, $frame);
                $seen = self::withoutHoles($labels->of($frame), $width);
                foreach (self::edges($matte, $seen, $width, $height) as $what => [$is, $of]) {
                    $near[$what] = [$near[$what][0] + $is, $near[$what][1] + $of];
                }
                foreach ($seen as $k => $label) {
                    if ($label !== LabelPictures::OTHER) {
                        $people += $label > 0 ? 1 : 0;
                        $wrong += ($label > 0) !== ($matte[$k] >= 0.5) ? 1 : 0;
                    }
                }
            }
            foreach ($near as $what => [$is, $of]) {
                $all[$what] = [($all[$what][0] ?? 0) + $is, ($all[$what][1] ?? 0) + $of];
            }
            yield ["people, {$shot}", self::what(), self::shares($near), '95 %'];
            yield ["people, {$shot}", 'taken for people or left out, of their size', sprintf('%.2f %%', 100 * $wrong / $people), ''];
            yield ["people, {$shot}", 'edge from frame to frame, second difference (RMS)', sprintf('%.2f px', $this->jitter($footage)), ''];
        }
        yield ['people, all shots', self::what(), self::shares($all), '95 %'];
        $folder = (string) getenv('COSSEL_REAL');
        foreach (array_filter(self::REAL, static fn(string $clip): bool => $folder !== '' && is_file("{$folder}/{$clip}.mp4")) as $clip) {
            yield ["people, real man, {$clip}", 'edge from frame to frame, second difference (RMS)', sprintf('%.2f px', $this->jitter($this->footage("{$folder}/{$clip}.mp4"))), ''];
        }
    }

    private static function what(): string
    {
        return 'edge within reach: ' . implode(', ', array_map(static fn(string $what, int $near): string => "{$what} {$near} px", array_keys(self::NEAR), self::NEAR));
    }

    /** @param array<string, array{int, int}> $near */
    private static function shares(array $near): string
    {
        return implode(', ', array_map(static fn(array $n): string => $n[1] === 0 ? 'none' : sprintf('%.1f %%', 100 * $n[0] / $n[1]), $near));
    }

    private function footage(string $path): FootageFile
    {
        return new FootageFile($path, (string) hash_file('sha256', $path), $this->probe->read($path), basename($path));
    }

    /** @return array{list<float>, int, int} the matte, row by row, and its size */
    private function matte(FootageFile $footage, int $frame): array
    {
        $picture = $this->frames->frame($footage, $frame, FrameCache::kept($footage->info, self::ROWS));
        $rect = $picture->format->rect();
        $people = $this->faces->people($footage, $frame, min($frame + self::ROW, $footage->info->frames() - 1));

        return [(new PeopleShapeMatte(new People('p'), $people, $rect, $picture))->matte($rect)->v, $rect->width, $rect->height];
    }

    /**
     * Background that is not seen from the border of the picture, as in the corner of a drawn mouth, is the person's.
     *
     * @param list<int> $seen labels
     *
     * @return list<int>
     */
    private static function withoutHoles(array $seen, int $width): array
    {
        $n = count($seen);
        $isOutside = array_fill(0, $n, false);
        $stack = array_merge(range(0, $width - 1), range($n - $width, $n - 1), range(0, $n - 1, $width), range($width - 1, $n - 1, $width));
        while ($stack !== []) {
            $k = array_pop($stack);
            if (($seen[$k] ?? 1) === 0 && !$isOutside[$k]) {
                $isOutside[$k] = true;
                array_push($stack, $k - $width, $k + $width, ...($k % $width > 0 ? [$k - 1] : []), ...(($k + 1) % $width > 0 ? [$k + 1] : []));
            }
        }

        return array_map(static fn(int $label, bool $outside): int => $label === 0 && !$outside ? LabelPictures::SKIN : $label, $seen, $isOutside);
    }

    /**
     * @param list<float> $matte
     * @param list<int>   $seen  labels
     *
     * @return array<string, array{int, int}> by what ends there: how many pixels of the edge are near enough, and of how many
     */
    private static function edges(array $matte, array $seen, int $width, int $height): array
    {
        $edge = [];
        foreach ($matte as $k => $v) {
            foreach ([1, $width] as $next) {
                if (isset($matte[$k + $next]) && ($next > 1 || ($k + 1) % $width > 0) && ($v >= 0.5) !== ($matte[$k + $next] >= 0.5)) {
                    $edge[$k] = $edge[$k + $next] = true;
                }
            }
        }
        $near = [];
        foreach ($seen as $k => $label) {
            foreach ([1, $width] as $next) {
                $other = $next > 1 || ($k + 1) % $width > 0 ? ($seen[$k + $next] ?? null) : null;
                if ($other === null || ($label > 0) === ($other > 0) || max($label, $other) === LabelPictures::OTHER) {
                    continue;
                }
                $what = match (max($label, $other)) {
                    self::HAIR => 'hair',
                    self::CLOTHES => 'clothes',
                    default => 'skin',
                };
                $near[$what] ??= [0, 0];
                ++$near[$what][1];
                $near[$what][0] += self::isNear($edge, $k % $width, intdiv($k, $width), $width, $height, self::NEAR[$what]) ? 1 : 0;
            }
        }

        return $near;
    }

    /** @param array<int, true> $edge */
    private static function isNear(array $edge, int $x, int $y, int $width, int $height, int $reach): bool
    {
        for ($j = max(0, $y - $reach); $j <= min($height - 1, $y + $reach); ++$j) {
            for ($i = max(0, $x - $reach); $i <= min($width - 1, $x + $reach); ++$i) {
                if (isset($edge[$j * $width + $i]) && ($i - $x) ** 2 + ($j - $y) ** 2 <= $reach ** 2) {
                    return true;
                }
            }
        }

        return false;
    }

    /** How far the edge goes to and fro, pixels: of the matte's second difference in time, over how steep it is there. */
    private function jitter(FootageFile $footage): float
    {
        $first = max(0, intdiv($footage->info->frames() - self::ROW, 2));
        $sum = $count = 0;
        $mattes = [];
        for ($frame = $first; $frame < min($first + self::ROW, $footage->info->frames()); ++$frame) {
            [$mattes[], $width] = $this->matte($footage, $frame);
            if (count($mattes) < 3) {
                continue;
            }
            [$before, $now, $after] = $mattes;
            array_shift($mattes);
            foreach ($now as $k => $v) {
                if (isset($now[$k + $width], $now[$k - $width]) && $v > 0.3 && $v < 0.7) {
                    $steep = hypot($now[$k + 1] - $now[$k - 1], $now[$k + $width] - $now[$k - $width]) / 2;
                    if ($steep >= self::STEEP) {
                        $sum += min(self::MOST, abs($before[$k] - 2 * $v + $after[$k]) / $steep) ** 2;
                        ++$count;
                    }
                }
            }
        }

        return $count === 0 ? 0.0 : sqrt($sum / $count);
    }
}
