<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

/** Follows a thing from the frame it was made for, in one direction and then in the other. */
interface Follower
{
    /**
     * Follows towards a frame. Yields each frame's step, stated from the start frame, as soon as it is known; a frame
     * may be yielded again once more is known about it.
     *
     * @return \Generator<int, Step>
     */
    public function to(int $last): \Generator;
}
