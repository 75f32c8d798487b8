<?php

declare(strict_types=1);

namespace App\Work;

/** The queues of background work, by who waits for it. Workers take from them in this order. */
final class Queues
{
    /** A person at the bench: following, reading a file. One worker does nothing else. */
    public const BENCH = 'bench';
    /** Deliveries, their parts in turns. */
    public const DELIVERIES = 'deliveries';
    /** Nobody: frames decoded ahead, looking for tell-tales. */
    public const AHEAD = 'ahead';
}
