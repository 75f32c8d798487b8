<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Collection;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasMany;

/**
 * A revision of a shot being looked over for tell-tales, or looked over.
 *
 * @property int                   $id
 * @property int                   $shot_id
 * @property int                   $revision
 * @property string                $engine   what computed it
 * @property array<string, array<string, array<int, float>>>|null $measures by tell-tale, area and frame, once all frames are looked at
 * @property array<string, array<string, string>>|null $before what the footage has untreated, as sentences by tell-tale and area
 * @property string|null           $message  why it could not be done
 * @property Shot                  $shot
 * @property Collection<int, Look> $looks
 */
final class Judging extends Model
{
    protected $casts = ['measures' => 'array', 'before' => 'array'];

    /** @return BelongsTo<Shot, $this> */
    public function shot(): BelongsTo
    {
        return $this->belongsTo(Shot::class);
    }

    /** @return HasMany<Look, $this> */
    public function looks(): HasMany
    {
        return $this->hasMany(Look::class)->orderBy('from');
    }
}
