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
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\Outline;
use Cossel\Core\Recipe\Part;
use Cossel\Core\Recipe\Path;
use Cossel\Core\Recipe\PathPoint;
use Cossel\Core\Recipe\Recipe;

/** People taken as they were found on one frame and followed at once, nothing touched by hand, against their truth. */
final class TakenReport
{
    private const SHOTS = ['gh020_laugh' => 36, 'gh040_skin' => 24, 'gh030_gaze' => 0, 'mouth_kei' => 12];
    private const GOALS = ['iris' => '0.5 % of face width', 'lids' => '1.2 % of face width', 'lips' => '1.2 % of face width'];
    private const EVERY = 3;

    public function __construct(private readonly Probe $probe, private readonly FrameCache $frames, private readonly Together $together, private readonly Finder $finder) {}

    /** @return \Generator<int, array{string, string, string, string}> section, what, measured, goal */
    public function rows(): \Generator
    {
        foreach (self::SHOTS as $shot => $start) {
            $path = base_path("demo/footage/{$shot}.webm");
            $footage = new FootageFile($path, (string) hash_file('sha256', $path), $this->probe->read($path), basename($path));
            $this->frames->prepare($footage, 0, $footage->info->frames() - 1, FollowedFootage::HEIGHT);
            $taken = Taken::on($this->finder, $this->together, $footage, $start);
            yield from $this->against($shot, $start, $taken->recipe, $taken->motions);
        }
    }

    /** @return \Generator<int, array{string, string, string, string}> */
    private function against(string $shot, int $start, Recipe $recipe, Motions $motions): \Generator
    {
        $truth = json_decode((string) file_get_contents(base_path("demo/truth/{$shot}.truth.json")), true, flags: JSON_THROW_ON_ERROR);
        $labels = new LabelPictures(base_path("demo/truth/labels/{$shot}.zip"));
        $misses = $outside = [];
        foreach ($truth['frame'] as $frame => $of) {
            if ($frame % self::EVERY !== 0) {
                continue;
            }
            $accuracy = new PersonAccuracy($labels->of($frame), $truth['width'], $truth['height'], $of);
            foreach ($recipe->areas as $area) {
                $left = str_starts_with($area->name, 'Left');
                if ($area->is(Part::Iris, Part::Lids, Part::Lips) && $accuracy->there($area->part, $left)) {
                    $miss = self::miss($accuracy, $area, $left, $frame, $motions);
                    if ($miss !== null) {
                        $misses[$area->part][] = $miss;
                    }
                }
                if ($area->is(Part::Teeth) && ($motions->openness($area, $frame) ?? 1.0) > 0.2) {
                    $outside[] = $accuracy->outside(array_map(static fn(PathPoint $p): array => [$p->x * $truth['height'], $p->y * $truth['height']], self::moved($area, $frame, $motions)));
                }
            }
        }
        $section = "taken and followed on {$shot} from frame {$start}";
        foreach (self::GOALS as $part => $goal) {
            $v = $misses[$part] ?? [];
            if ($v !== []) {
                $words = $part === 'iris' ? 'centres of irises' : $part;
                yield [$section, "{$words}, mean (worst)", sprintf('%.2f %% of face width (%.2f)', array_sum($v) / count($v), max($v)), $goal];
            }
        }
        if ($outside !== []) {
            yield [$section, 'teeth outside the mouth, mean (worst)', sprintf('%.2f px (%.2f)', array_sum($outside) / count($outside), max($outside)), '2 px'];
        }
    }

    private static function miss(PersonAccuracy $accuracy, Area $area, bool $left, int $frame, Motions $motions): ?float
    {
        $shape = $area->outline->shapes[0];
        if ($shape instanceof Ellipse) {
            return $accuracy->iris(new Ellipse('s', $motions->pose($area, $shape, $frame)->motion->apply(...$shape->centre), $shape->radii), $left)[0];
        }

        return $accuracy->outline($area->withOutline(new Outline($frame, [new Path('s', self::moved($area, $frame, $motions))])), $left);
    }

    /** @return list<PathPoint> an area's path where it is on a frame, with points between its own */
    private static function moved(Area $area, int $frame, Motions $motions): array
    {
        $shape = $area->outline->shapes[0];
        if (!$shape instanceof Path) {
            return [];
        }
        $pose = $motions->pose($area, $shape, $frame);
        $points = array_map(static fn(PathPoint $p): PathPoint => $p->moved($pose->motion), $pose->path($shape->points));
        if (!$area->is(Part::Teeth)) {
            return $points;
        }
        $line = [];
        foreach ($points as $i => $p) {
            for ($k = 0; $k < 4; ++$k) {
                $line[] = new PathPoint(...[...Contour::on($p, $points[($i + 1) % count($points)], $k / 4), 0.0, 0.0, 0.0, 0.0]);
            }
        }

        return $line;
    }
}
