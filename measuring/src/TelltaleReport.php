<?php

declare(strict_types=1);

namespace Cossel\Measuring;

use App\Footage\FrameCache;
use App\Judging\ShotInspection;
use Cossel\Core\Telltale\Findings;
use Cossel\Core\Telltale\Inspection;

/** What the tell-tales say of the finished demo shots, and how long they take. */
final class TelltaleReport
{
    public function __construct(private readonly DemoShots $demo, private readonly ShotInspection $inspection, private readonly FrameCache $frames) {}

    /** @return \Generator<int, array{string, string, string, string}> section, what, measured, goal */
    public function rows(): \Generator
    {
        foreach (['gh010_backlit', 'gh020_laugh', 'gh030_gaze', 'gh040_skin'] as $name) {
            $section = "tell-tales of {$name}, as delivered";
            $demo = $this->demo->named($name);
            $recipe = $demo->recipe();
            $last = $demo->footage->info->frames() - 1;
            foreach ([Inspection::ROWS, $demo->footage->info->height] as $rows) {
                $this->frames->prepare($demo->footage, 0, $last, $rows);
            }
            $start = hrtime(true);
            $looks = iterator_to_array($this->inspection->looks(new Inspection($recipe, $demo->motions($recipe)), $demo->footage, range(0, $last)));
            $measures = Findings::measures($looks, $recipe);
            $seconds = (hrtime(true) - $start) / 1e9;
            foreach (Findings::of($measures, $recipe) as $finding) {
                yield [$section, $finding->telltale->name . ($finding->area === null ? '' : " of {$finding->area->name}"), sprintf('%.2f on frame %d', $finding->measure(), $finding->worst()), sprintf('%.2f %s', $finding->limit, $finding->telltale->unit)];
            }
            yield [$section, 'all of them, every frame looked at, one core', sprintf('%.1f s', $seconds), '40 s (20 s on two cores)'];
        }
    }
}
