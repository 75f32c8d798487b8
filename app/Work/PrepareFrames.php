<?php

declare(strict_types=1);

namespace App\Work;

use App\Footage\FrameCache;
use App\Models\Shot;
use App\Pictures\BenchPictures;

/**
 * Decodes a shot's frames ahead at the sizes the bench uses, so that stepping through it does not wait. It gives way to
 * work somebody waits for: on a queue of its own that workers look at last, one size at a time.
 */
final class PrepareFrames implements Piece
{
    use Background;

    /** Frames decoded ahead at the most; beyond, they are decoded when asked for. */
    private const MOST = 480;

    public function __construct(private readonly int $shot, private readonly int $size = 0)
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
        $height = FrameCache::kept($shot->footage->info(), BenchPictures::USUAL_HEIGHTS[$this->size]);
        $frames->prepare($shot->footage->file(), $shot->from, min($shot->to, $shot->from + self::MOST), $height);
        if (isset(BenchPictures::USUAL_HEIGHTS[$this->size + 1])) {
            self::dispatch($this->shot, $this->size + 1);
        }
    }
}
