<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * What somebody asks for on a frame. Resolved, it is kept.
 *
 * @property int      $id
 * @property int      $shot_id
 * @property int      $frame
 * @property string   $text
 * @property bool     $resolved
 * @property Shot     $shot
 */
final class FrameNote extends Model
{
    protected $attributes = ['resolved' => false];

    protected $casts = ['resolved' => 'boolean'];

    /** @return BelongsTo<Shot, $this> */
    public function shot(): BelongsTo
    {
        return $this->belongsTo(Shot::class);
    }
}
