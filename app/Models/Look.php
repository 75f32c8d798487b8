<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * A run of frames to be looked at for a judging.
 *
 * @property int         $id
 * @property int         $judging_id
 * @property int         $from
 * @property int         $to
 * @property string|null $looks   JSON: frame => tell-tale => area => numbers
 * @property Judging     $judging
 */
final class Look extends Model
{
    public $timestamps = false;

    /** @return BelongsTo<Judging, $this> */
    public function judging(): BelongsTo
    {
        return $this->belongsTo(Judging::class);
    }

    public function frames(): int
    {
        return $this->to - $this->from + 1;
    }
}
