<?php

declare(strict_types=1);

namespace Cossel\Measuring;

use App\Finding\Finder;
use App\Following\Together;
use App\Footage\FollowedFootage;
use App\Footage\FootageFile;
use App\Footage\FrameCache;
use App\Footage\Probe;
use Cossel\Core\Motion\Motions;
use Cossel\Core\Outline\Contour;
use Cossel\Core\Propose\FoundPerson;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\Live;
use Cossel\Core\Recipe\Part;
use Cossel\Core\Recipe\Path;
use Cossel\Core\Recipe\PathPoint;
use Cossel\Core\Recipe\Recipe;

/**
 * A real man who talks, laughs and turns, against points seen by eye (measuring/labels): found, taken as he was found on one frame, and
 * followed at once. The clips are no part of Cossel: they are measured where COSSEL_REAL names a folder that has them.
 */
final class RealReport
{
    /** Frames he is taken on: looking ahead, as somebody would choose. */
    private const CLIPS = ['talk' => 95, 'turn' => 0, 'near' => 80, 'calm' => 70];
    private const GOALS = ['irises' => 'mean 2 px, 95 % within 4', 'lips' => 'mean 5 px, 95 % within 11', 'lids' => 'mean 3 px'];
    /** Error from which a frame must be told as weak: of an iris, and of parts, in pixels. */
    private const WRONG = ['irises' => 5.5, 'lips' => 15.0, 'lids' => 15.0];
    private const PER_PIECE = 12;

    public function __construct(private readonly Probe $probe, private readonly FrameCache $frames, private readonly Finder $finder, private readonly Together $together) {}

    /** @return \Generator<int, array{string, string, string, string}> section, what, measured, goal */
    public function rows(): \Generator
    {
        $folder = (string) getenv('COSSEL_REAL');
        $labels = json_decode((string) file_get_contents(__DIR__ . '/../labels/talking_man.json'), true, flags: JSON_THROW_ON_ERROR);
        $all = [];
        foreach (self::CLIPS as $clip => $start) {
            $path = "{$folder}/{$clip}.mp4";
            if ($folder === '' || !is_file($path)) {
                continue;
            }
            $footage = new FootageFile($path, (string) hash_file('sha256', $path), $this->probe->read($path), basename($path));
            $this->frames->prepare($footage, 0, $footage->info->frames() - 1, FollowedFootage::HEIGHT);
            $scale = $labels['height'];
            $taken = Taken::on($this->finder, $this->together, $footage, $start);
            $misses = [];
            foreach ($labels['clips'][$clip] as $frame => $points) {
                foreach ($this->misses($taken->recipe, $taken->motions, (int) $frame, $points, $scale) as [$part, $miss, $confidence]) {
                    $misses[$part][] = [$miss, $confidence, (int) $frame];
                    $all[$part][] = [$miss, $confidence, (int) $frame];
                }
            }
            yield ["real man, {$clip}", 'found on labelled frames', sprintf('%d of %d', count($this->found($footage, array_keys($labels['clips'][$clip]))), count($labels['clips'][$clip])), '98 %'];
            yield from self::told("real man, {$clip}", $misses);
            yield ["real man, {$clip}", 'what it says', $taken->words === [] ? 'nothing is weak' : implode('. ', $taken->words), ''];
        }
        yield from self::told('real man, all clips', $all);
    }

    /**
     * @param array<string, list<array{float, float, int}>> $misses
     *
     * @return \Generator<int, array{string, string, string, string}>
     */
    private static function told(string $section, array $misses): \Generator
    {
        foreach (self::GOALS as $part => $goal) {
            $v = array_column($misses[$part] ?? [], 0);
            if ($v === []) {
                continue;
            }
            $worst = ($misses[$part] ?? [])[(int) array_search(max($v), $v, true)][2];
            sort($v);
            yield [$section, "{$part}, mean (95 %, worst)", sprintf('%.1f px (%.1f, %.1f on %d)', array_sum($v) / count($v), $v[(int) (0.95 * (count($v) - 1))], end($v), $worst), $goal];
            $wrong = array_filter($misses[$part], static fn(array $m): bool => $m[0] > self::WRONG[$part]);
            $silent = array_filter($wrong, static fn(array $m): bool => $m[1] >= 0.4);
            yield [$section, "{$part}: wrong, and not told as weak", sprintf('%d, %d of %d', count($wrong), count($silent), count($v)), 'none silent'];
            if (count($v) > 20) {
                yield [$section, "{$part}: rank correlation of error and confidence", sprintf('%.2f', Ranks::correlation(array_column($misses[$part], 1), array_column($misses[$part], 0))), 'below -0.50'];
            }
        }
    }

    /**
     * @param list<int> $frames
     *
     * @return list<int> those on which a face is found
     */
    private function found(FootageFile $footage, array $frames): array
    {
        $people = $this->finder->on($footage, $frames, new Live(0, 0), Taken::ids());

        return array_keys(array_filter($people, static fn(array $on): bool => array_filter($on, static fn(FoundPerson $p): bool => $p->whole) !== []));
    }

    /**
     * @param array<string, array{float, float}> $points
     *
     * @return \Generator<int, array{string, float, float}> part, pixels it is off by, confidence
     */
    private function misses(Recipe $recipe, Motions $motions, int $frame, array $points, int $scale): \Generator
    {
        foreach ($recipe->areas as $area) {
            $confidence = $motions->track($area, $area->motion)?->steps[$frame]->confidence ?? 0.0;
            $side = str_starts_with($area->name, 'Left') ? 'l' : 'r';
            $shape = $area->outline->shapes[0];
            if ($area->is(Part::Iris) && $shape instanceof Ellipse && isset($points["iris_{$side}"])) {
                [$x, $y] = $motions->pose($area, $shape, $frame)->apply(...$shape->centre);
                yield ['irises', hypot($x * $scale - $points["iris_{$side}"][0], $y * $scale - $points["iris_{$side}"][1]), $confidence];
            }
            if ($area->is(Part::Lids, Part::Lips) && $shape instanceof Path) {
                $line = self::line($area, $shape, $motions, $frame, $scale);
                $what = $area->is(Part::Lids) ? 'lids' : 'lips';
                $middles = $what === 'lids' ? [["lid_{$side}_up", true], ["lid_{$side}_low", false]] : [['lip_up', true], ['lip_low', false]];
                foreach ($middles as [$name, $isUpper]) {
                    if (isset($points[$name])) {
                        yield [$what, self::across($line, $points[$name], $isUpper), $confidence];
                    }
                }
                foreach ($what === 'lids' ? [] : [['mouth_r', 1], ['mouth_l', -1]] as [$name, $way]) {
                    if (isset($points[$name])) {
                        usort($line, static fn(array $a, array $b): int => $way * ($a[0] <=> $b[0]));
                        yield [$what, hypot($line[0][0] - $points[$name][0], $line[0][1] - $points[$name][1]), $confidence];
                    }
                }
            }
        }
    }

    /** @return non-empty-list<array{float, float}> along the path on a frame, pixels */
    private static function line(Area $area, Path $path, Motions $motions, int $frame, int $scale): array
    {
        $pose = $motions->pose($area, $path, $frame);
        $points = array_map(static fn(PathPoint $p): PathPoint => $p->moved($pose->motion), $pose->path($path->points));
        $line = array_map(static fn(array $p): array => [$p[0] * $scale, $p[1] * $scale], Contour::along($points, self::PER_PIECE));

        return $line === [] ? [[0.0, 0.0]] : $line;
    }

    /**
     * How far the upper or the lower side of a line is from a place above or below.
     *
     * @param non-empty-list<array{float, float}> $line
     * @param array{float, float}                 $place
     */
    private static function across(array $line, array $place, bool $upper): float
    {
        $near = array_filter($line, static fn(array $p): bool => abs($p[0] - $place[0]) < 6.0);
        $ys = array_column($near ?: $line, 1);

        return abs(($upper ? min($ys) : max($ys)) - $place[1]);
    }
}
