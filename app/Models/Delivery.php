<?php

declare(strict_types=1);

namespace App\Models;

use App\Deliveries\Format;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasMany;
use Illuminate\Support\Facades\Storage;

/**
 * A shot being rendered, or rendered, to a file.
 *
 * @property int                           $id
 * @property int                           $shot_id
 * @property Format                        $format
 * @property string|null                   $slip     tells an order sent again from another one
 * @property DeliveryState                 $state
 * @property int                           $from
 * @property int                           $to
 * @property int                           $revision
 * @property string                        $recipe   JSON, as it was when the delivery was asked for
 * @property string|null                   $name     of the file, without extension
 * @property string|null                   $sha256   of the file, once done
 * @property string|null                   $file     on the data disk, once done
 * @property int|null                      $bytes
 * @property string|null                   $error
 * @property Shot                          $shot
 * @property Collection<int, DeliveryPart> $parts
 */
final class Delivery extends Model
{
    protected $casts = ['format' => Format::class, 'state' => DeliveryState::class];

    /** @return BelongsTo<Shot, $this> */
    public function shot(): BelongsTo
    {
        return $this->belongsTo(Shot::class);
    }

    /** @return HasMany<DeliveryPart, $this> */
    public function parts(): HasMany
    {
        return $this->hasMany(DeliveryPart::class)->orderBy('index');
    }

    /** Where its parts are kept until it is finished. */
    public function workFolder(): string
    {
        return Storage::disk('data')->path("deliveries/{$this->id}.work");
    }
}
