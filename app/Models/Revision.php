<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * One state of a shot's recipe; never changed once written.
 *
 * @property int      $id
 * @property int      $shot_id
 * @property int      $number
 * @property int|null $parent  number of the revision it was made from
 * @property string   $label   what was done, in a few words
 * @property string   $recipe  JSON
 */
final class Revision extends Model
{
    public const UPDATED_AT = null;

    /** @return array<string, mixed> */
    public function document(): array
    {
        return json_decode($this->recipe, true, flags: JSON_THROW_ON_ERROR);
    }
}
