<?php

declare(strict_types=1);

namespace Cossel\Core\Motion;

use Cossel\Core\Recipe\PathPoint;

/** What carries a thing that moves by itself as well: the head it is on, or the part of a face it is. */
interface Carrier
{
    /**
     * Where it takes a path.
     *
     * @param list<PathPoint> $points pixels
     *
     * @return list<PathPoint>
     */
    public function moved(array $points, int $from, int $to, int $height): array;

    /** Whether it takes things along on a frame; else they stay where they are. */
    public function carries(int $frame): bool;

    /** Whether it knows by itself where the thing is on a frame: it is found there even if its own edge is not. */
    public function sees(int $frame): bool;

    /** How far it sees the thing open on a frame, against the start frame: 0 to 1; null where it cannot tell. */
    public function open(int $frame): ?float;

    /**
     * Whether a path lies within what holds it.
     *
     * @param list<PathPoint> $points pixels
     */
    public function holds(int $frame, array $points, int $height): bool;
}
