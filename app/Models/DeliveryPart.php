<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * A range of frames of a delivery, rendered by one worker.
 *
 * @property int      $id
 * @property int      $delivery_id
 * @property int      $index
 * @property int      $from
 * @property int      $to
 * @property int      $done     frames rendered
 * @property bool     $complete its file is whole and in place
 * @property string|null $error why it was given up
 * @property Delivery $delivery
 */
final class DeliveryPart extends Model
{
    public $timestamps = false;

    protected $casts = ['complete' => 'boolean'];

    /** @return BelongsTo<Delivery, $this> */
    public function delivery(): BelongsTo
    {
        return $this->belongsTo(Delivery::class);
    }
}
