<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * The treatment of one shot carried to another: proposed in the background, then taken or left.
 *
 * @property int         $id
 * @property string      $batch           common to all that were asked for at once
 * @property int         $source_id       where it comes from; for a kept treatment where that is laid on
 * @property int         $source_revision
 * @property int         $shot_id         that it is carried to
 * @property CarryState  $state
 * @property array{areas: list<string>, touches?: list<string>|null, base: bool, finish: bool, replace: bool, match: bool, treatment?: int, name?: string, person?: string|null} $what of
 *     the source, or the kept treatment of that id, for that person
 * @property string|null $message         what is being done, or why it could not be
 * @property list<string> $words          what was done only so, or not: sentences without their stops
 * @property list<array{string, float, float}> $misses name of each area that was matched, how far it was off before and is after
 * @property int|null    $frame           on which the person was found
 * @property int|null    $revision        of the shot, that the proposal was made on
 * @property string|null $recipe          the proposal
 * @property int|null    $taken           the revision that took it
 * @property Shot        $source
 * @property Shot        $shot
 */
final class Carry extends Model
{
    protected $attributes = ['words' => '[]', 'misses' => '[]'];

    protected $casts = ['state' => CarryState::class, 'what' => 'array', 'words' => 'array', 'misses' => 'array'];

    /** Whether it is a kept treatment that is laid on. */
    public function isKept(): bool
    {
        return isset($this->what['treatment']);
    }

    /** The name of what it comes from. */
    public function origin(): string
    {
        return $this->what['name'] ?? $this->source->name;
    }

    /** @return BelongsTo<Shot, $this> */
    public function source(): BelongsTo
    {
        return $this->belongsTo(Shot::class, 'source_id');
    }

    /** @return BelongsTo<Shot, $this> */
    public function shot(): BelongsTo
    {
        return $this->belongsTo(Shot::class);
    }
}
