<?php

declare(strict_types=1);

namespace Cossel\Core\Propose;

use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Model;
use Cossel\Core\Recipe\Motion;
use Cossel\Core\Recipe\Part;
use Cossel\Core\Recipe\Path;

/** How parts are followed: a head as a surface that turns, irises by their round edge, lids and lips point by point; the rest rides. */
final class Ways
{
    /** @return Model|null null for what rides on the head */
    public static function of(Area $area): ?Model
    {
        $paths = array_filter($area->outline->shapes, static fn($shape): bool => $shape instanceof Path) !== [];

        return match (true) {
            $area->is(Part::Face) => Model::Relief,
            // Round the eyes, where no face is seen whole.
            $area->is(Part::Skin) && $area->motion->by !== Motion::RIDE => Model::Similarity,
            $area->is(Part::Iris) => Model::Iris,
            $paths && $area->is(Part::Lids, Part::Lips, Part::Teeth) => Model::Outline,
            default => null,
        };
    }

    /** Whether what is done to it is to come and go with how far it is open. */
    public static function guarded(Area $area): bool
    {
        return $area->is(Part::Iris, Part::Teeth);
    }
}
