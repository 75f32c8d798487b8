<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

/** How a frame of a track came about. */
enum State: string
{
    /** Found in the picture. */
    case Followed = 'followed';
    /** Not seen, laid between good frames. */
    case Bridged = 'bridged';
    /** Not seen, and no good frame beyond. */
    case Lost = 'lost';
    /** The frame the follow started from, or one that was lost and put right by hand. */
    case Set = 'set';
}
