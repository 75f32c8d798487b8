<?php

declare(strict_types=1);

namespace Cossel\Core\Face;

/** The people on the frames of a shot: how much of them each place shows, and their faces. */
interface PeopleSource
{
    public function matte(int $frame): PeopleMatte;

    /** On some frames, as far as there are any. */
    public function faces(int $from, int $to): FaceSource;

    /**
     * Where the face is that was pointed out, through the whole shot; null where no face is seen on that frame.
     *
     * @param array{float, float} $place on it, picture heights
     */
    public function places(array $place, int $frame): ?FacePlaces;
}
