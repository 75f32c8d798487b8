<?php

declare(strict_types=1);

namespace App\Following;

use App\Footage\FootageFile;
use App\Footage\FootageLuma;
use App\Footage\FrameCache;
use Cossel\Core\Motion\Motions;
use Cossel\Core\Motion\RegionFollower;
use Cossel\Core\Motion\Step;
use Cossel\Core\Motion\Track;
use Cossel\Core\Outline\AreaMatte;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Ellipse;
use Cossel\Core\Recipe\Outline;
use Cossel\Core\Recipe\Recipe;

/** Follows an area of a recipe through footage: both ways from a start frame, over a span. */
final class AreaFollower
{
    public function __construct(private readonly FrameCache $frames) {}

    /**
     * @param array<string, Track>           $tracks  those the recipe needs, by sha256
     * @param callable(int, Step): bool|null $onStep  told of each frame; false stops, and what was found is kept
     */
    public function follow(FootageFile $footage, Recipe $recipe, Area $area, array $tracks, int $start, int $from, int $to, ?callable $onStep = null): Track
    {
        $luma = new FootageLuma($this->frames, $footage);
        $motions = new Motions($recipe, $tracks);
        $region = AreaMatte::on(self::looked($area), $start, $motions->of($area, $start), $luma->frame());
        $steps = [];
        foreach ([$to, $from] as $last) {
            if ($last === $start) {
                continue;
            }
            foreach (RegionFollower::from($luma, $start, $region, $area->motion->model)->to($last) as $number => $step) {
                $steps[$number] = $step;
                if ($onStep !== null && !$onStep($number, $step)) {
                    break 2;
                }
            }
        }
        $known = $area->motion->track === null ? null : $tracks[$area->motion->track] ?? null;
        $known = $known !== null && $known->first() <= $start && $known->last() >= $start ? $known : Track::beginning($start, $area->motion->model);

        return $known->with($start, $area->motion->model, $steps);
    }

    /** The outline as the follower looks at it: hard-edged, with the margin that was asked for. */
    private static function looked(Area $area): Outline
    {
        $hard = static fn(Ellipse $e, float $grow): Ellipse => new Ellipse($e->id, $e->centre, $e->radii, $e->turn, 0.0, 0.0, $grow, 1.0, $e->join, []);
        $shapes = array_map(static function (Ellipse $ellipse) use ($area, $hard): Ellipse {
            $then = $ellipse->at($area->outline->at);

            return $hard($then, $then->grow + $area->motion->look);
        }, $area->outline->shapes);

        return new Outline($area->outline->at, $shapes);
    }
}
