<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Carbon;

/**
 * A state of a shot's treatment kept under a name, to compare with and go back to.
 *
 * @property int    $id
 * @property int    $shot_id
 * @property int    $number     of the revision it keeps
 * @property string $name
 * @property Carbon $created_at
 */
final class Version extends Model {}
