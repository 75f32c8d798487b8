<?php

declare(strict_types=1);

namespace App\Carrying;

use App\Faces\Faces;
use App\Faces\MeasuredFaces;
use Cossel\Core\Carry\AreaTones;
use Cossel\Core\Carry\Likeness;
use Cossel\Core\Carry\Place;
use Cossel\Core\Face\Descriptor;
use Cossel\Core\Face\FollowedFace;
use Cossel\Core\Outline\AreaExtent;
use Cossel\Core\Propose\FoundPerson;
use Cossel\Core\Propose\Proposal;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Part;
use Cossel\Core\Recipe\Recipe;

/** Tells people apart by what they look like untreated: by their faces, as far as these were measured, and by colours. */
final class People
{
    /** How far the middle of an outline may be from that of the face it is on, in sizes of the face. */
    private const ON = 0.6;

    public function __construct(private readonly Frames $frames, private readonly Faces $faces) {}

    /** Of somebody outlined in a recipe; null where too little of them is. */
    public function outlined(Scene $scene, ?string $person): ?Likeness
    {
        $own = array_values(array_filter($scene->recipe->areas, static fn(Area $area): bool => $area->person === $person && $area->outline->shapes !== []));

        return $own === [] ? null : $this->likeness($scene, $own, [$own[0]->outline->at, ...Frames::numbers($scene->recipe->source->span, 3)], $this->outlinedFace($scene, $own));
    }

    /** Of somebody found on a frame. */
    public function found(Scene $scene, int $frame, FoundPerson $person): ?Likeness
    {
        $sure = array_values(array_filter($person->proposals, static fn(Proposal $p): bool => $p->doubt === null));
        $all = new Recipe($scene->recipe->source, areas: array_map(static fn(Proposal $p): Area => $p->area, $person->proposals));

        return $this->likeness(new Scene($scene->footage, $all), array_map(static fn(Proposal $p): Area => $p->area, $sure), [$frame], $person->face === null ? null : FollowedFace::from($this->known($scene), $person->face, $frame)->descriptor());
    }

    /**
     * The face that areas of a person lie on.
     *
     * @param non-empty-list<Area> $areas
     */
    private function outlinedFace(Scene $scene, array $areas): ?Descriptor
    {
        $whole = array_filter($areas, static fn(Area $area): bool => $area->is(Part::Face) || $area->is(Part::Skin));
        $area = [...$whole, ...$areas][0];
        $frame = $area->outline->at;

        return FollowedFace::pointedOut($this->known($scene), AreaExtent::of($area, $frame, $scene->motions())->centre(), $frame, self::ON)?->descriptor();
    }

    private function known(Scene $scene): MeasuredFaces
    {
        return $this->faces->known($scene->footage, ...$scene->recipe->source->span);
    }

    /**
     * @param list<Area> $areas   of the scene
     * @param list<int>  $numbers frames
     */
    private function likeness(Scene $scene, array $areas, array $numbers, ?Descriptor $face): ?Likeness
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

        return Likeness::of(array_filter($all), $face);
    }
}
