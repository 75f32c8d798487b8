<?php

declare(strict_types=1);

namespace Cossel\Core\Face;

/** The people on the frames of footage: how much of them each place shows, and their faces. */
interface PeopleSource
{
    public function matte(int $frame): PeopleMatte;

    /** On all frames. */
    public function faces(): FaceSource;
}
