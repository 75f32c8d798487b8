<?php

declare(strict_types=1);

namespace App\Work;

use App\Cuts\Cuts;
use App\Footage\FootageStore;
use App\Footage\Intake;
use App\Footage\RefusedFootage;
use App\Footage\UnreadableFootage;
use App\Footage\Uploads;
use App\Models\Shot;
use App\Models\ShotState;
use App\Models\Upload;

/** Probes the file that a shot is made of. Footage that is not whole waits for its user's word. */
final class ReadFootage implements Piece
{
    use Background;

    public function __construct(private readonly int $shot)
    {
        $this->onQueue(Queues::BENCH);
    }

    public function about(): string
    {
        return "shot {$this->shot}";
    }

    public function what(): string
    {
        return 'Reading footage';
    }

    public function again(): void
    {
        $shot = Shot::find($this->shot);
        $shot === null || app(Uploads::class)->again($shot);
    }

    public function handle(Intake $intake, Uploads $uploads, FootageStore $store): void
    {
        $upload = Upload::where('shot_id', $this->shot)->first();
        $shot = Shot::find($this->shot);
        if ($shot === null || $shot->state !== ShotState::Reading) {
            return;
        }
        try {
            $upload === null || $uploads->fetch($upload);
            $footage = $intake->take($upload?->path() ?? '', $upload->name ?? $shot->name, true);
            $damage = $footage->info()->damage;
            Intake::span($footage, $upload?->span);
            if ($damage === [] && $shot->cut !== null) {
                $shot->update(['state' => ShotState::Missing]);
                app(Cuts::class)->supply($shot->job, $footage);
            } elseif ($damage === []) {
                $intake->fill($shot, $footage, $upload?->span);
                PrepareFrames::dispatch($shot->id);
                app(Cuts::class)->supply($shot->job, $footage);
            } else {
                $shot->update(['state' => ShotState::Doubtful, 'footage_id' => $footage->id, 'error' => implode(' ', $damage)]);
            }
        } catch (UnreadableFootage|RefusedFootage $refusal) {
            $shot->update(['state' => ShotState::Failed, 'error' => $refusal->getMessage()]);
            isset($footage) && $store->drop($footage);
        }
        $uploads->spend($shot->refresh());
    }

    public function failed(?\Throwable $reason): void
    {
        Shot::whereKey($this->shot)->where('state', ShotState::Reading)->update(['state' => ShotState::Failed, 'error' => 'Reading the file broke off. ' . Said::of($reason)]);
    }
}
