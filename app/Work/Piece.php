<?php

declare(strict_types=1);

namespace App\Work;

use Illuminate\Contracts\Queue\ShouldQueue;

/** A piece of background work: what it is for, in words, and how it is begun again after it was given up. */
interface Piece extends ShouldQueue
{
    /** The row it is done for, as in “shot 12”: what waits for work is found by it. */
    public function about(): string;

    /** In words, for whoever reads that it failed. */
    public function what(): string;

    /** Among work that is waited for equally, what has the lower turn comes first. */
    public function turn(): int;

    public function again(): void;
}
