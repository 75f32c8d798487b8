<?php

declare(strict_types=1);

namespace Cossel\Core\Propose;

use Cossel\Core\Face\Mesh;
use Cossel\Core\Recipe\Motion;
use Cossel\Core\Recipe\Outline;
use Cossel\Core\Recipe\Part;
use Cossel\Core\Recipe\People;

/** Whole people, with hair and clothes, and what is round them all: as they are seen on every frame, so neither is followed. */
final class PeopleAreas extends Areas
{
    /** @return list<Proposal> */
    public function proposed(Mesh $mesh): array
    {
        $place = self::rounded($mesh->middle());
        $still = new Motion(pivot: $place);
        $person = $this->area(($this->id)('a'), 'Whole person', Part::Person, [new People(($this->id)('s'), $place)], $still);
        $round = $this->area(($this->id)('a'), 'Surroundings', Part::Surroundings, [new People(($this->id)('s'))], $still);
        $outline = new Outline($this->frame, $round->area->outline->shapes, invert: true);

        return [$person, new Proposal($round->area->withOutline($outline))];
    }
}
