<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Cuts\CutPlace;
use App\Footage\Uploads;
use App\Models\FollowState;
use App\Models\Shot;
use App\Models\ShotState;
use App\Treatment\Progress;
use Illuminate\Http\Request;
use Illuminate\Http\Resources\Json\JsonResource;

/** @mixin Shot */
final class ShotResource extends JsonResource
{
    /** @return array<string, mixed> */
    public function toArray(Request $request): array
    {
        [$progress, $trouble] = $this->progress();

        return [
            'id' => $this->id,
            'jobId' => $this->job_id,
            'job' => $this->job->name,
            'name' => $this->name,
            'notes' => $this->notes,
            'archived' => $this->archived,
            'openNotes' => $this->resource->getAttribute('open_notes_count') ?? $this->frameNotes()->where('resolved', false)->count(),
            'state' => $this->state,
            'error' => $this->error ?? $trouble,
            'canBeReadAgain' => Uploads::canBeReadAgain($this->resource),
            'from' => $this->from,
            'to' => $this->to,
            'revision' => $this->revision,
            'footage' => $this->footage === null ? null : new FootageResource($this->footage),
            'cut' => $this->cut(),
            'progress' => $progress,
            'following' => $this->resource->getAttribute('following_count') ?? $this->follows()->whereIn('state', FollowState::open())->count(),
        ];
    }

    /** @return array{number: int, in: int, out: int, retired: bool, told: list<string>}|null its event: first and last frame in the footage */
    private function cut(): ?array
    {
        $place = $this->resource->cut === null ? null : CutPlace::of($this->resource->cut);
        if ($place === null) {
            return null;
        }
        [$in, $out] = $this->footage === null ? [$place->event->in, $place->event->out - 1] : $place->frames($this->footage->info());

        return ['number' => $place->event->number, 'in' => $in, 'out' => $out, 'retired' => $place->isRetired, 'told' => $place->event->told];
    }

    /**
     * One shot that cannot be told of must never keep a list from being shown.
     *
     * @return array{array<string, mixed>|null, string|null}
     */
    private function progress(): array
    {
        if ($this->state !== ShotState::Ready) {
            return [null, null];
        }
        try {
            return [app(Progress::class)->of($this->resource), null];
        } catch (\Throwable $reason) {
            report($reason);

            return [null, 'The recipe of this shot cannot be read. Go back in its history on the bench, or remove the shot.'];
        }
    }
}
