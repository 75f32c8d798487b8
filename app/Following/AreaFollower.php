<?php

declare(strict_types=1);

namespace App\Following;

use App\Faces\CannotFindFaces;
use App\Faces\Faces;
use App\Footage\FollowedFootage;
use App\Footage\FootageFile;
use App\Footage\FrameCache;
use Cossel\Core\Face\FaceSource;
use Cossel\Core\Motion\FaceOutline;
use Cossel\Core\Motion\Followers;
use Cossel\Core\Motion\IrisFollower;
use Cossel\Core\Motion\Motions;
use Cossel\Core\Motion\OutlineFollower;
use Cossel\Core\Motion\RegionFollower;
use Cossel\Core\Motion\Step;
use Cossel\Core\Motion\Track;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\Shape;

/** Follows an area of a recipe through footage: both ways from a start frame, over a span. */
final class AreaFollower
{
    public function __construct(private readonly FrameCache $frames, private readonly Faces $faces) {}

    /**
     * @param Shape|null                     $shape      one of its shapes, to be followed for itself
     * @param array<string, Track>           $tracks     those the recipe needs, by sha256
     * @param callable(int, Step): bool|null $onStep     told of each frame; false stops, and what was found is kept
     * @param callable(int, int): bool|null  $onMeasured told, while faces are measured before, on how many frames they are, and of how many; false stops
     */
    public function follow(FootageFile $footage, Recipe $recipe, Area $area, ?Shape $shape, array $tracks, int $start, int $from, int $to, ?callable $onStep = null, ?callable $onMeasured = null): Track
    {
        $source = new FollowedFootage($this->frames, $footage);
        $motions = new Motions($recipe, $tracks);
        $motion = $shape === null ? $area->motion : $shape->motion ?? $area->motion;
        $faces = Followers::usesFaces($area, $shape) ? $this->faces($footage, min($from, $start), max($to, $start), $onMeasured) : null;
        $steps = [];
        $relief = $follower = null;
        foreach ([$to, $from] as $last) {
            if ($last === $start) {
                continue;
            }
            $follower ??= Followers::from($source, $area, $shape, $start, $motions, $faces);
            foreach ($follower->to($last) as $number => $step) {
                $steps[$number] = $step;
                if ($onStep !== null && !$onStep($number, $step)) {
                    break 2;
                }
            }
        }
        if ($follower instanceof RegionFollower) {
            [$steps, $relief] = $follower->learnt($steps);
            $outline = $faces === null ? null : FaceOutline::of($area, $faces, $start, $motions);
            $steps = $outline?->laid($steps, $motion->model, $relief) ?? $steps;
        } elseif ($follower instanceof OutlineFollower || $follower instanceof IrisFollower) {
            $steps = $follower->settled($steps);
        }
        $known = $motions->track($area, $motion);
        $known = $known !== null && $known->first() <= $start && $known->last() >= $start ? $known : Track::beginning($start, $motion->model);

        return $known->with($start, $motion->model, $steps, $relief);
    }

    /** Where they cannot be measured it is followed without. */
    private function faces(FootageFile $footage, int $from, int $to, ?callable $onMeasured): ?FaceSource
    {
        try {
            return $this->faces->through($footage, $from, $to, $onMeasured);
        } catch (CannotFindFaces) {
            return null;
        }
    }
}
