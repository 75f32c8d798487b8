<?php

declare(strict_types=1);

namespace App\Work;

use App\Footage\FrameCache;
use App\Models\Shot;

/**
 * Decodes a shot's frames ahead at the sizes the bench uses, so that stepping through it does not wait. It gives way to
 * work somebody waits for: on a queue of its own that workers look at last.
 */
final class PrepareFrames implements Piece
{
    use Background;

    /** Frames decoded ahead at the most; beyond, they are decoded when asked for. */
    private const MOST = 480;
    /** Rows: the bench on a usual screen, a half for what moves and for witnesses, a third for what plays at once. */
    private const ROWS = [540, 270, 180];

    public function __construct(private readonly int $shot)
    {
        $this->onQueue(Queues::AHEAD);
    }

    public function about(): string
    {
        return "frames of shot {$this->shot}";
    }

    public function what(): string
    {
        return 'Decoding frames ahead';
    }

    public function handle(FrameCache $frames): void
    {
        $shot = Shot::find($this->shot);
        if ($shot === null || $shot->footage === null) {
            return;
        }
        $to = min($shot->to, $shot->from + self::MOST - 1);
        $heights = $frames->affordable($shot->footage->info(), $to - $shot->from + 1, ...self::ROWS);
        $frames->prepare($shot->footage->file(), $shot->from, $to, ...$heights);
        config('cossel.faces_ahead') && MeasureFaces::dispatch($this->shot);
    }
}
