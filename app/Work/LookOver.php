<?php

declare(strict_types=1);

namespace App\Work;

use App\Judging\Judgings;
use App\Models\Judging;
use App\Models\Look;

/** Looks a run of frames over for tell-tales; gives up when the shot has moved on to another revision. */
final class LookOver implements Piece
{
    use Background;

    public function __construct(private readonly int $look)
    {
        $this->onQueue(Queues::AHEAD);
    }

    public function about(): string
    {
        return "look {$this->look}";
    }

    public function what(): string
    {
        return 'Looking for tell-tales';
    }

    public function again(): void
    {
        Judging::whereKey(Look::find($this->look)?->judging_id)->update(['message' => null]);
        self::dispatch($this->look);
    }

    public function handle(Judgings $judgings): void
    {
        $look = Look::find($this->look);
        if ($look !== null) {
            $judgings->take($look);
        }
    }

    public function failed(?\Throwable $reason): void
    {
        $look = Look::find($this->look);
        Judging::whereKey($look?->judging_id)->update(['message' => Said::of($reason)]);
    }
}
