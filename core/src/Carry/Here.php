<?php

declare(strict_types=1);

namespace Cossel\Core\Carry;

use Cossel\Core\Motion\Motions;
use Cossel\Core\Outline\Poses;
use Cossel\Core\Propose\Proposal;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Recipe;

/** What there is of a person in a shot: areas that are outlined already, and what was found of them on one frame. */
final readonly class Here
{
    /** @var array<string, string> ids of areas by their place */
    private array $there;
    /** @var list<Area> */
    private array $found;

    /** @param list<Proposal> $proposals */
    public function __construct(private Recipe $recipe, private ?string $person, private array $proposals)
    {
        $own = array_values(array_filter($recipe->areas, static fn(Area $a): bool => $a->person === $person && $a->outline->shapes !== []));
        $places = array_map(static fn(Area $area): ?string => Place::of($area, $own), $own);
        $this->there = array_flip(array_filter(array_combine(array_column($own, 'id'), $places)));
        $this->found = array_map(static fn(Proposal $p): Area => $p->area, $proposals);
    }

    /**
     * The first of these places that is outlined.
     *
     * @param list<string> $places
     */
    public function area(array $places): ?Area
    {
        foreach ($places as $place) {
            if (isset($this->there[$place])) {
                return $this->recipe->area($this->there[$place]);
            }
        }

        return null;
    }

    /**
     * The first of these places that was found.
     *
     * @param list<string> $places
     */
    public function proposal(array $places): ?Proposal
    {
        foreach ($places as $place) {
            foreach ($this->proposals as $proposal) {
                if (Place::of($proposal->area, $this->found) === $place) {
                    return $proposal;
                }
            }
        }

        return null;
    }

    /** A proposed area by its id. */
    public function found(string $id): Area
    {
        return array_column($this->found, null, 'id')[$id];
    }

    /** The id of the area that does the duty of a proposed one: the one that is that part already, or itself. */
    public function instead(Area $proposed): string
    {
        return $this->there[Place::of($proposed, $this->found) ?? ''] ?? $proposed->id;
    }

    /** @return array<string, array{float, float}> where its parts are on the frame: as they were found, else as they are outlined */
    public function marks(Poses $poses, int $frame): array
    {
        $found = new Recipe($this->recipe->source, areas: $this->found);
        $outlined = Place::all($this->recipe, $this->person, $poses, $frame);

        return [...$outlined, ...Place::all($found, null, new Motions($found, []), $frame)];
    }
}
