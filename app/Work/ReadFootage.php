<?php

declare(strict_types=1);

namespace App\Work;

use App\Footage\Intake;
use App\Footage\RefusedFootage;
use App\Footage\UnreadableFootage;
use App\Models\Shot;
use App\Models\ShotState;
use Illuminate\Contracts\Queue\ShouldQueue;

/** Probes a file that was brought in and has its span decoded for the bench. */
final class ReadFootage implements ShouldQueue
{
    use Background;

    /** @param array{int, int|null}|null $span frames to use; null for all */
    public function __construct(private readonly int $shot, private readonly string $path, private readonly string $name, private readonly ?array $span) {}

    public function handle(Intake $intake): void
    {
        $shot = Shot::find($this->shot);
        if ($shot === null || $shot->state !== ShotState::Reading) {
            return;
        }
        try {
            $footage = $intake->take($this->path, $this->name);
            $intake->fill($shot, $footage, $this->span);
            PrepareFrames::dispatch($shot->id);
        } catch (UnreadableFootage|RefusedFootage $refusal) {
            $shot->update(['state' => ShotState::Failed, 'error' => $refusal->getMessage()]);
        }
    }

    public function failed(?\Throwable $reason): void
    {
        Shot::whereKey($this->shot)->update(['state' => ShotState::Failed, 'error' => 'Reading the file broke off. Bring it in again.']);
    }
}
