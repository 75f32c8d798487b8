<?php

declare(strict_types=1);

namespace App\Models;

use App\Deliveries\Format;
use App\Deliveries\Wishes;
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
 * @property array<string, mixed>          $wishes   as App\Deliveries\Wishes keeps them
 * @property string|null                   $beside   on the data disk, once done: a zip of what else was asked for
 * @property string|null                   $beside_sha256
 * @property string|null                   $file     on the data disk, once done
 * @property int|null                      $bytes
 * @property string|null                   $error
 * @property Shot                          $shot
 * @property Collection<int, DeliveryPart> $parts
 */
final class Delivery extends Model
{
    protected $casts = ['format' => Format::class, 'state' => DeliveryState::class, 'wishes' => 'array'];

    protected $attributes = ['wishes' => '{}'];

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

    public function wishes(): Wishes
    {
        return Wishes::of($this->wishes);
    }

    /** Where its parts are kept until it is finished. */
    public function workFolder(): string
    {
        return Storage::disk('data')->path("deliveries/{$this->id}.work");
    }
}
