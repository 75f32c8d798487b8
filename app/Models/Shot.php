<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Collection;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasMany;
use Illuminate\Database\Eloquent\Relations\HasOne;

/**
 * A shot of a job: a span of footage with its treatment.
 *
 * @property int                       $id
 * @property int                       $job_id
 * @property int|null                  $footage_id
 * @property string                    $name
 * @property string                    $notes
 * @property ShotState                 $state
 * @property string|null               $error
 * @property int                       $from     first frame of the span
 * @property int                       $to       last frame of the span
 * @property int                       $revision number of the present revision
 * @property array<string, mixed>|null $cut its event in the cut, as App\Cuts\CutPlace keeps it
 * @property array{float, float, float}|null $light mean Oklab of its middle frame, once it was looked at
 * @property array<string, float>      $limits   of tell-tales, where the user has set them
 * @property Job                       $job
 * @property Footage|null              $footage
 * @property Collection<int, Delivery> $deliveries
 * @property Collection<int, Follow>   $follows
 * @property Collection<int, Version>  $versions
 * @property Collection<int, Judging>  $judgings
 * @property Collection<int, Tick>     $ticks
 * @property Revision                  $presentRevision
 * @property Judging|null              $presentJudging
 * @property int                       $position in the job's list
 * @property bool                      $archived put away: kept, but no longer in the job's lists unless asked for
 * @property string|null $origin   what it is known by in bundles
 * @property array{name: string, sha256: string, span: array{int, int}}|null $wants footage that a bundle named and did not hold
 * @property Collection<int, FrameNote> $frameNotes
 */
final class Shot extends Model
{
    protected $casts = ['archived' => 'boolean', 'state' => ShotState::class, 'limits' => 'array', 'light' => 'array', 'cut' => 'array', 'wants' => 'array'];

    protected $attributes = ['archived' => false, 'notes' => '', 'from' => 0, 'to' => 0, 'revision' => 0, 'position' => 0, 'limits' => '{}'];

    /** @return BelongsTo<Job, $this> */
    public function job(): BelongsTo
    {
        return $this->belongsTo(Job::class);
    }

    /** @return BelongsTo<Footage, $this> */
    public function footage(): BelongsTo
    {
        return $this->belongsTo(Footage::class);
    }

    /** @return HasMany<Revision, $this> */
    public function revisions(): HasMany
    {
        return $this->hasMany(Revision::class);
    }

    /** @return HasOne<Revision, $this> the one its pointer stands on */
    public function presentRevision(): HasOne
    {
        return $this->hasOne(Revision::class)->join('shots', 'shots.id', '=', 'revisions.shot_id')->whereColumn('revisions.number', 'shots.revision')->select('revisions.*');
    }

    /** @return HasOne<Judging, $this> of the present revision, by the present engine */
    public function presentJudging(): HasOne
    {
        return $this->hasOne(Judging::class)->join('shots', 'shots.id', '=', 'judgings.shot_id')->whereColumn('judgings.revision', 'shots.revision')->where('judgings.engine', config('cossel.engine'))->select('judgings.*');
    }

    /** @return HasMany<Tick, $this> */
    public function ticks(): HasMany
    {
        return $this->hasMany(Tick::class);
    }

    /** @return HasMany<FrameNote, $this> */
    public function frameNotes(): HasMany
    {
        return $this->hasMany(FrameNote::class)->orderBy('frame')->orderBy('id');
    }

    /** @return HasMany<Version, $this> */
    public function versions(): HasMany
    {
        return $this->hasMany(Version::class)->orderByDesc('id');
    }

    /** @return HasMany<Delivery, $this> */
    public function deliveries(): HasMany
    {
        return $this->hasMany(Delivery::class)->orderByDesc('id');
    }

    /** @return HasMany<Follow, $this> */
    public function follows(): HasMany
    {
        return $this->hasMany(Follow::class)->orderBy('id');
    }

    /** @return HasMany<Judging, $this> */
    public function judgings(): HasMany
    {
        return $this->hasMany(Judging::class);
    }

    /** @throws ShotNotReady while it is read, or when it could not be */
    public function readyFootage(): Footage
    {
        if ($this->state !== ShotState::Ready || $this->footage === null) {
            throw ShotNotReady::because($this->error);
        }

        return $this->footage;
    }
}
