<?php

declare(strict_types=1);

namespace Cossel\Core\Carry;

use Cossel\Core\Geometry\Matrix;
use Cossel\Core\Motion\Fit;
use Cossel\Core\Outline\Poses;
use Cossel\Core\Propose\Proposal;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\AreaShape;
use Cossel\Core\Recipe\Model;
use Cossel\Core\Recipe\Motion;
use Cossel\Core\Recipe\Outline;
use Cossel\Core\Recipe\Pair;
use Cossel\Core\Recipe\Part;
use Cossel\Core\Recipe\People;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\Shape;

/**
 * Carries a treatment into the recipe of another shot: each area onto the same part of the person there, as it is there already or
 * as it was found on one frame; what was drawn by hand onto the place it has among those parts. Nothing is written over but the
 * touches of a part, where that is asked for.
 */
final class Carrying
{
    /** Parts that must be in both shots to tell where a drawn outline belongs. */
    private const LEAST_MARKS = 2;

    /** @var list<Area> of the recipe it becomes */
    private array $areas;
    /** @var array<string, string> */
    private array $taken = [];
    /** @var list<string> */
    private array $new = [];
    /** @var list<string> */
    private array $words = [];
    private readonly Restated $restated;
    private readonly Here $here;

    /**
     * @param list<Proposal>           $proposals for the person, on one frame of the shot
     * @param int                      $frame     that frame
     * @param string|null              $person    whose the areas become
     * @param bool                     $replace   whether touches of parts that are treated already give way; else the area is laid beside
     * @param \Closure(string): string $newId     from its first letter
     */
    public function __construct(
        private readonly Treatment $treatment,
        private readonly Recipe $target,
        private readonly Poses $poses,
        array $proposals,
        private readonly int $frame,
        private readonly ?string $person,
        private readonly bool $replace,
        private readonly \Closure $newId,
    ) {
        $this->areas = $target->areas;
        $this->restated = new Restated($treatment, $target, $newId);
        $this->here = new Here($target, $person, $proposals);
    }

    public function carried(): Carried
    {
        foreach ($this->treatment->areas as $area) {
            $places = $this->places($area);
            $there = $this->here->area($places);
            $proposal = $there === null ? $this->here->proposal($places) : null;
            if ($there !== null) {
                $this->onto($there, $area);
            } elseif ($proposal?->area->is(Part::Skin) === true) {
                // What is outlined round the eyes there is for the rest to ride on.
                $this->words[] = "{$area->name}: left out, the face is not seen whole";
            } elseif ($proposal?->doubt !== null) {
                $this->words[] = "{$area->name}: left out, {$proposal->doubt}";
            } elseif ($proposal !== null) {
                // It may have come in for another already.
                $this->treat($this->standIn($proposal->area), $area);
            } elseif ($this->isWanted($area)) {
                $this->drawn($area);
            }
        }
        $this->pair();

        return new Carried(
            new Recipe(
                $this->target->source,
                $this->restated->assets,
                $this->restated->whole('base', $this->treatment->base, $this->target->base, $this->replace),
                $this->areas,
                $this->restated->whole('finish', $this->treatment->finish, $this->target->finish, $this->replace),
            ),
            $this->taken,
            $this->new,
            [...$this->words, ...$this->restated->words],
        );
    }

    private function onto(Area $there, Area $area): void
    {
        if ($this->target->touches($there) === [] || $this->replace) {
            $this->treat($there, $area);

            return;
        }
        $this->words[] = "{$there->name} is treated already: laid beside";
        $own = ['id' => ($this->newId)('a'), 'name' => $this->named($there->name), 'pair' => null, 'touches' => []];
        $own['outline'] = $there->outline->withShapes(fn(Shape $shape): Shape => Restated::named($shape, ($this->newId)('s')));
        $this->areas[] = new Area(...[...get_object_vars($there), ...$own]);
        $this->treat($this->areas[array_key_last($this->areas)], $area);
    }

    /** Does to an area of this recipe what is done to the one that is carried. */
    private function treat(Area $here, Area $area): void
    {
        [$was, $is] = [Restated::size($area), Restated::size($here)];
        $treated = $this->restated->treated($here, $area, $was > 0.0 && $is > 0.0 ? $is / $was : 1.0);
        $this->areas = array_map(static fn(Area $a): Area => $a->id === $here->id ? $treated : $a, $this->areas);
        $this->taken[$area->id] = $here->id;
    }

    /** A proposed area as it comes in: what it rides on or is made of comes with it, unless the person has that part here. */
    private function needed(Area $proposed): Area
    {
        $instead = [];
        foreach ($this->target->needs($proposed) as $id) {
            $instead[$id] = $this->standIn($this->here->found($id))->id;
        }
        $on = $proposed->motion->on;
        $motion = $on === null ? $proposed->motion : new Motion(...[...get_object_vars($proposed->motion), 'on' => $instead[$on]]);
        $shapes = $proposed->outline->withShapes(static function (Shape $shape) use ($instead): Shape {
            return $shape instanceof AreaShape ? new AreaShape($shape->id, $instead[$shape->of], $shape->opacity, $shape->join) : $shape;
        });
        $values = [...get_object_vars($proposed), 'name' => $this->named($proposed->name), 'person' => $this->person];

        return (new Area(...$values))->withMotion($motion)->withOutline($shapes);
    }

    /** The area that does the duty of a proposed one. */
    private function standIn(Area $proposed): Area
    {
        $here = $this->here->instead($proposed);
        foreach ($this->areas as $area) {
            if ($area->id === $here) {
                return $area;
            }
        }
        $new = $this->needed($proposed);
        $this->areas[] = $new;
        $this->new[] = $new->id;

        return $new;
    }

    /** @return list<string> that an area may go to */
    private function places(Area $area): array
    {
        $place = $this->treatment->places[$area->id] ?? null;

        return $place === null ? [] : Place::like($place);
    }

    /** Whether something is done in it, or another that is drawn too is made of it or rides on it. */
    private function isWanted(Area $area): bool
    {
        $others = array_filter($this->treatment->areas, function (Area $other) use ($area): bool {
            $places = $this->places($other);
            $isDrawn = $this->here->area($places) === null && $this->here->proposal($places) === null;

            return $isDrawn && in_array($area->id, $this->target->needs($other), true);
        });

        return $area->touches !== [] || $area->pair?->linked === true || $others !== [];
    }

    /** What was drawn by hand goes where it lies among the parts of the person. */
    private function drawn(Area $area): void
    {
        $marks = $this->treatment->marks[$area->id] ?? [];
        $here = array_intersect_key($this->here->marks($this->poses, $this->frame), $marks);
        $from = array_map(static fn(string $place): array => $marks[$place], array_keys($here));
        $fit = count($here) < self::LEAST_MARKS ? null : Fit::least(Model::Similarity, $from, array_values($here));
        $isOne = static fn(Shape $shape): bool => !$shape instanceof People || $shape->place !== null;
        $fit ??= array_filter($area->outline->shapes, $isOne) === [] ? Matrix::identity() : null;
        if ($fit === null) {
            $this->words[] = "{$area->name}: left out, nothing tells where it belongs here";

            return;
        }
        $shapes = [];
        foreach ($area->outline->shapes as $shape) {
            if ($shape instanceof AreaShape) {
                $of = $this->taken[$shape->of] ?? null;
                if ($of === null) {
                    $this->words[] = "{$area->name}: left out, it is made of an area that is not carried";

                    return;
                }
                $shapes[] = new AreaShape(($this->newId)('s'), $of, $shape->opacity, $shape->join);
                continue;
            }
            $shapes[] = Restated::moved(Restated::named($shape->at($area->outline->at), ($this->newId)('s')), $fit);
        }
        $motion = $this->motion($area, $fit);
        $own = ['id' => ($this->newId)('a'), 'name' => $this->named($area->name), 'person' => $this->person, 'pair' => null];
        $outline = new Outline($this->frame, $shapes, $area->outline->invert);
        $new = (new Area(...[...get_object_vars($area), ...$own]))->withOutline($outline)->withMotion($motion);
        $this->areas[] = $this->restated->treated($new, $area, $fit->scale());
        $this->taken[$area->id] = $new->id;
        $this->new[] = $new->id;
    }

    private function motion(Area $area, Matrix $fit): Motion
    {
        $pivot = $fit->apply(...$area->motion->pivot);
        if ($area->motion->by !== Motion::RIDE || $area->motion->on === null) {
            return new Motion(Motion::NONE, model: $area->motion->model, look: $area->motion->look, pivot: $pivot);
        }
        $on = $this->taken[$area->motion->on] ?? $this->head();
        if ($on === null) {
            $this->words[] = "{$area->name}: it rides on nothing here";
        }

        return $on === null ? new Motion(pivot: $pivot) : new Motion(Motion::RIDE, use: $area->motion->use, pivot: $pivot, on: $on);
    }

    /** The person's head here, which comes in if it was found only now. */
    private function head(): ?string
    {
        foreach ($this->areas as $area) {
            if ($area->person === $this->person && $area->is(Part::Face, Part::Skin)) {
                return $area->id;
            }
        }
        $face = $this->here->proposal(Place::like(Part::Face->value));

        return $face === null ? null : $this->standIn($face->area)->id;
    }

    /** Areas that belong together do so here, if both came; what was linked to one that did not does the same for itself. */
    private function pair(): void
    {
        foreach ($this->treatment->areas as $area) {
            $own = $this->taken[$area->id] ?? null;
            if ($own === null || $area->pair === null) {
                continue;
            }
            [$other, $linked] = [$area->pair->with, $area->pair->linked];
            $with = $this->taken[$other] ?? null;
            $leads = $linked && $with === null ? array_column($this->treatment->areas, null, 'id')[$other]->touches : [];
            $own = array_search($own, array_column($this->areas, 'id'), true);
            $this->areas[$own] = new Area(...[
                ...get_object_vars($this->areas[$own]),
                'pair' => $with === null ? null : new Pair($with, $linked),
                ...($leads === [] ? [] : ['touches' => array_map($this->restated->touch(...), $leads)]),
            ]);
        }
    }

    /** A name that no area has here. */
    private function named(string $name): string
    {
        $taken = array_map(static fn(Area $area): string => $area->name, $this->areas);
        for ($free = $name, $n = 2; in_array($free, $taken, true); ++$n) {
            $free = "{$name} {$n}";
        }

        return $free;
    }
}
