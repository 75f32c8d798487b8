<?php

declare(strict_types=1);

namespace App\Work;

use App\Faces\Faces;
use App\Models\Shot;

/**
 * Measures the faces on a shot's frames ahead, so that finding and following people does not wait for it: a run of frames at a time, the
 * rest queued again behind what else waits.
 */
final class MeasureFaces implements Piece
{
    use Background;

    /** Frames measured at once: enough that starting the nets costs little beside, and few seconds. */
    private const RUN = 96;

    public function __construct(private readonly int $shot)
    {
        $this->onQueue(Queues::AHEAD);
    }

    public function about(): string
    {
        return "faces of shot {$this->shot}";
    }

    public function what(): string
    {
        return 'Measuring faces ahead';
    }

    public function handle(Faces $faces): void
    {
        $shot = Shot::find($this->shot);
        if ($shot === null || $shot->footage === null) {
            return;
        }
        $run = $faces->missing($shot->footage->file(), $shot->from, $shot->to, self::RUN);
        if ($run !== []) {
            $faces->measure($shot->footage->file(), $run);
            self::dispatch($this->shot);
        }
    }
}
