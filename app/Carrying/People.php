<?php

declare(strict_types=1);

namespace App\Carrying;

use Cossel\Core\Carry\AreaTones;
use Cossel\Core\Carry\Likeness;
use Cossel\Core\Carry\Place;
use Cossel\Core\Propose\FoundPerson;
use Cossel\Core\Propose\Proposal;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Recipe;

/** Tells people apart by what they look like untreated. */
final class People
{
    public function __construct(private readonly Frames $frames) {}

    /** Of somebody outlined in a recipe; null where too little of them is. */
    public function outlined(Scene $scene, ?string $person): ?Likeness
    {
        $own = array_values(array_filter($scene->recipe->areas, static fn(Area $area): bool => $area->person === $person && $area->outline->shapes !== []));

        return $own === [] ? null : $this->likeness($scene, $own, [$own[0]->outline->at, ...Frames::numbers($scene->recipe->source->span, 3)]);
    }

    /** Of somebody found on a frame. */
    public function found(Scene $scene, int $frame, FoundPerson $person): ?Likeness
    {
        $sure = array_values(array_filter($person->proposals, static fn(Proposal $p): bool => $p->doubt === null));
        $all = new Recipe($scene->recipe->source, areas: array_map(static fn(Proposal $p): Area => $p->area, $person->proposals));

        return $this->likeness(new Scene($scene->footage, $all), array_map(static fn(Proposal $p): Area => $p->area, $sure), [$frame]);
    }

    /**
     * @param list<Area> $areas   of the scene
     * @param list<int>  $numbers frames
     */
    private function likeness(Scene $scene, array $areas, array $numbers): ?Likeness
    {
        $untreated = $scene->recipe->withAreas(static fn(Area $area): Area => $area->withTouches([])->withPick(null));
        $bare = new Recipe($untreated->source, areas: $untreated->areas);
        $tones = new AreaTones($bare, $scene->motions(), $this->frames->of($scene->footage, array_values(array_unique($numbers))));
        $all = [];
        foreach ($areas as $area) {
            $place = Place::of($area, $areas);
            if ($place !== null) {
                $all[$place] = $tones->of($area->withPick(null));
            }
        }

        return Likeness::of(array_filter($all));
    }
}
