<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Collection;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasMany;

/**
 * A shot of a job: a span of footage with its treatment.
 *
 * @property int                       $id
 * @property int                       $job_id
 * @property int|null                  $footage_id
 * @property string                    $name
 * @property string                    $notes
 * @property string                    $state    reading | ready | failed
 * @property string|null               $error
 * @property int                       $from     first frame of the span
 * @property int                       $to       last frame of the span
 * @property int                       $revision number of the present revision
 * @property string                    $limits   JSON: tell-tale => limit, where the user has set it
 * @property Job                       $job
 * @property Footage|null              $footage
 * @property Collection<int, Delivery> $deliveries
 * @property Collection<int, Follow>   $follows
 * @property Collection<int, Version>  $versions
 * @property Collection<int, Judging>  $judgings
 */
final class Shot extends Model
{
    public const READING = 'reading';
    public const READY = 'ready';
    public const FAILED = 'failed';

    protected $attributes = ['notes' => '', 'from' => 0, 'to' => 0, 'revision' => 0, 'limits' => '{}'];

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

    /** @return array<string, float> limits of tell-tales, where the user has set them */
    public function limits(): array
    {
        return array_map(floatval(...), json_decode($this->limits, true, flags: JSON_THROW_ON_ERROR));
    }

    public function readyFootage(): Footage
    {
        abort_if($this->state !== self::READY || $this->footage === null, 409, $this->error ?? 'This shot is still being read.');

        return $this->footage;
    }
}
