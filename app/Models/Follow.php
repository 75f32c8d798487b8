<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * An area of a shot being followed in the background.
 *
 * @property int         $id
 * @property int         $shot_id
 * @property string      $area
 * @property string|null $shape   one of its shapes, followed for itself
 * @property string      $state   waiting | following | done | stopped | failed
 * @property int         $start
 * @property int         $from    first frame to follow to, at or before the start
 * @property int         $to      last frame to follow to, at or after the start
 * @property bool        $stop    asked to stop
 * @property string      $steps   JSON: [[frame, confidence, state], …] found so far
 * @property string|null $message
 * @property Shot        $shot
 */
final class Follow extends Model
{
    public const WAITING = 'waiting';
    public const FOLLOWING = 'following';
    public const DONE = 'done';
    public const STOPPED = 'stopped';
    public const FAILED = 'failed';

    protected $casts = ['stop' => 'boolean'];

    /** @return BelongsTo<Shot, $this> */
    public function shot(): BelongsTo
    {
        return $this->belongsTo(Shot::class);
    }

    public function isOpen(): bool
    {
        return in_array($this->state, [self::WAITING, self::FOLLOWING], true);
    }
}
