<?php

declare(strict_types=1);

namespace App\Work;

use App\Footage\FrameCache;
use App\Models\Shot;
use App\Pictures\BenchPictures;
use Illuminate\Contracts\Queue\ShouldQueue;

/** Decodes a shot's frames ahead at the sizes the bench uses, so that stepping through it does not wait. */
final class PrepareFrames implements ShouldQueue
{
    use Background;

    /** Frames decoded ahead at the most; beyond, they are decoded when asked for. */
    private const MOST = 480;

    public function __construct(private readonly int $shot) {}

    public function handle(FrameCache $frames): void
    {
        $shot = Shot::find($this->shot);
        if ($shot === null || $shot->footage === null) {
            return;
        }
        foreach (BenchPictures::USUAL_HEIGHTS as $height) {
            $frames->prepare($shot->footage->file(), $shot->from, min($shot->to, $shot->from + self::MOST), BenchPictures::height($shot->footage->info(), $height));
        }
    }
}
