<?php

declare(strict_types=1);

namespace Cossel\Core\Outline;

use Cossel\Core\Face\PeopleMatte;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\People;
use Cossel\Core\Recipe\Shape;
use Cossel\Core\Recipe\UnknownId;

/** Knows where the shapes of areas are on each frame. */
interface Poses
{
    public function pose(Area $area, Shape $shape, int $frame): Pose;

    /** What is seen of people there; null where that is not known. */
    public function people(Area $area, People $shape, int $frame): ?PeopleMatte;

    /** @throws UnknownId */
    public function area(string $id): Area;
}
