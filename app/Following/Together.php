<?php

declare(strict_types=1);

namespace App\Following;

use App\Footage\FootageFile;
use Cossel\Core\Motion\Gaze;
use Cossel\Core\Motion\Motions;
use Cossel\Core\Motion\TooLittleTexture;
use Cossel\Core\Motion\Track;
use Cossel\Core\Motion\Weakness;
use Cossel\Core\Propose\Ways;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Motion;
use Cossel\Core\Recipe\Part;
use Cossel\Core\Recipe\Recipe;

/** Follows people as they were found, each part in its own way, in a recipe that nobody works on meanwhile. */
final class Together
{
    public function __construct(private readonly AreaFollower $follower) {}

    /**
     * @param list<string>                     $ids    of areas; those that only ride are left as they are
     * @param array<string, Track>             $tracks those the recipe needs, by sha256
     * @param (callable(Area): void)|null      $onArea told of each before it is followed
     *
     * @return array{Recipe, array<string, Track>, list<string>} tracks by sha256, and what is weak: sentences without their stops
     */
    public function follow(FootageFile $footage, Recipe $recipe, array $ids, array $tracks, int $start, ?callable $onArea = null): array
    {
        [$from, $to] = $recipe->source->span;
        $words = [];
        $done = [];
        foreach (self::order($recipe, $ids) as $area) {
            $model = Ways::of($area);
            if ($model === null) {
                continue;
            }
            $onArea === null || $onArea($area);
            try {
                $set = $recipe->withArea($area->withMotion($area->motion->withModel($model)));
                $track = $this->follower->follow($footage, $set, $set->area($area->id), null, $tracks, $start, $from, $to);
            } catch (TooLittleTexture $reason) {
                $words[] = "{$area->name}: " . lcfirst(rtrim($reason->getMessage(), '.'));
                continue;
            }
            [$recipe, $tracks] = self::with($recipe, $area, $track, $tracks);
            $done[$area->id] = $recipe->area($area->id);
        }
        foreach (Gaze::together($done, new Motions($recipe, $tracks), $start) as $id => $track) {
            [$recipe, $tracks] = self::with($recipe, $recipe->area($id), $track, $tracks);
        }

        return [$recipe, $tracks, [...$words, ...self::weak($recipe, array_keys($done), $tracks)]];
    }

    /**
     * Heads first, teeth after the lips they are between.
     *
     * @param list<string> $ids
     *
     * @return list<Area>
     */
    private static function order(Recipe $recipe, array $ids): array
    {
        $areas = array_values(array_filter($recipe->areas, static fn(Area $area): bool => in_array($area->id, $ids, true)));
        usort($areas, static fn(Area $a, Area $b): int => [$a->motion->by === Motion::RIDE, $a->is(Part::Teeth)] <=> [$b->motion->by === Motion::RIDE, $b->is(Part::Teeth)]);

        return $areas;
    }

    /**
     * @param array<string, Track> $tracks
     *
     * @return array{Recipe, array<string, Track>}
     */
    private static function with(Recipe $recipe, Area $area, Track $track, array $tracks): array
    {
        $sha256 = hash('sha256', $track->json());
        $motion = new Motion(Motion::FOLLOW, $track->start, [$track->first(), $track->last()], $track->model, pivot: $area->motion->pivot, track: $sha256);

        return [$recipe->withArea($area->withMotion($motion)), [...$tracks, $sha256 => $track]];
    }

    /**
     * @param list<string>         $ids
     * @param array<string, Track> $tracks
     *
     * @return list<string>
     */
    private static function weak(Recipe $recipe, array $ids, array $tracks): array
    {
        $motions = new Motions($recipe, $tracks);
        $words = [];
        foreach (array_map($recipe->area(...), $ids) as $area) {
            $head = $motions->head($area);
            $on = $head?->motion->track;
            $words[] = Weakness::of($area->name, $tracks[(string) $area->motion->track], $on === null ? null : $tracks[$on]);
        }

        return array_values(array_filter($words));
    }
}
