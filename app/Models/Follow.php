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
 * @property FollowState $state
 * @property int         $start
 * @property int         $from    first frame to follow to, at or before the start
 * @property int         $to      last frame to follow to, at or after the start
 * @property bool        $stop    asked to stop
 * @property list<array{int, float, string}> $steps frame, confidence and state of what has been found so far
 * @property string|null $message
 * @property string|null $person  what is common to all follows of a person that were begun at once
 * @property int|null    $after   the follow this one waits for, because its area is on what that one follows
 * @property string|null $track   sha256 of what was found of a person's part, until the recipe takes it
 * @property Shot        $shot
 */
final class Follow extends Model
{
    protected $attributes = ['steps' => '[]', 'stop' => false];

    protected $casts = ['state' => FollowState::class, 'stop' => 'boolean', 'steps' => 'array'];

    /** @return BelongsTo<Shot, $this> */
    public function shot(): BelongsTo
    {
        return $this->belongsTo(Shot::class);
    }
}
