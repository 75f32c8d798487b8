<?php

declare(strict_types=1);

namespace App\Work;

use App\Faces\Faces;
use App\Models\Shot;
use App\Models\ShotState;

/**
 * Measures the faces on a shot's frames ahead, so that finding and following people does not wait for it: a run of frames at a time, the
 * rest queued again behind what else waits.
 */
final class MeasureFaces implements Piece
{
    use Background;

    /** Frames measured at once: enough that starting the nets costs little beside, and few seconds. */
    private const RUN = 96;

    /** Of a shot that somebody opens: its faces may have been cleared away, or measured in another way, since it was brought in. */
    public static function ofOpened(Shot $shot, Faces $faces): void
    {
        if (config('cossel.faces_ahead') && $shot->state === ShotState::Ready && $faces->missing($shot->readyFootage()->file(), $shot->from, $shot->to, 1) !== []) {
            self::dispatch($shot->id);
        }
    }

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
        $faces->measureOn($shot->footage->file(), $shot->from, $shot->to, self::RUN, true) || self::dispatch($this->shot);
    }
}
