<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Recipe\Area;

/** A recipe names a track that was not given. */
final class MissingTrack extends \DomainException
{
    public static function of(Area $area, string $sha256): self
    {
        return new self("The track of area “{$area->id}” ({$sha256}) is not there. Give it, or follow the area again.");
    }
}
