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
    /**
     * One shot that cannot be told of must never keep a list from being shown.
     *
     * @return array<string, mixed>
     */
    public function toArray(Request $request): array
    {
        try {
            return $this->told($request);
        } catch (\Throwable $reason) {
            report($reason);

            return $this->damaged();
        }
    }

    /** @return array<string, mixed> of a shot whose row, or whose footage's, cannot be understood: what it is known by */
    private function damaged(): array
    {
        $row = $this->resource->getAttributes();

        return [
            'id' => $row['id'],
            'jobId' => $row['job_id'],
            'job' => $this->job->name,
            'name' => $row['name'],
            'notes' => '',
            'archived' => false,
            'openNotes' => 0,
            'state' => ShotState::Failed,
            'error' => 'What is stored of this shot is damaged. Restore a backup, or remove the shot.',
            'canBeReadAgain' => false,
            'from' => 0,
            'to' => 0,
            'revision' => 0,
            'footage' => null,
            'cut' => null,
            'progress' => null,
            'following' => 0,
        ];
    }

    /** @return array<string, mixed> */
    private function told(Request $request): array
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
            'footage' => $this->footage === null ? null : (new FootageResource($this->footage))->toArray($request),
            'cut' => $this->cut(),
            'progress' => $progress,
            'following' => $this->resource->getAttribute('following_count') ?? $this->follows()->whereIn('state', FollowState::open())->count(),
        ];
    }

    /** @return array{number: int, in: int, out: int, retired: bool, told: list<string>}|null its event: first and last frame in the footage */
    private function cut(): ?array
    {
        if (($this->resource->getAttributes()['cut'] ?? null) === null) {
            return null;
        }
        $place = CutPlace::of($this->resource->cut ?? []);
        [$in, $out] = $this->footage === null ? [$place->event->in, $place->event->out - 1] : $place->frames($this->footage->info());

        return ['number' => $place->event->number, 'in' => $in, 'out' => $out, 'retired' => $place->isRetired, 'told' => $place->event->told];
    }

    /** @return array{array<string, mixed>|null, string|null} and why it cannot be told */
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
