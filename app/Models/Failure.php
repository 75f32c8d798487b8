<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Carbon;

/**
 * Background work that was given up.
 *
 * @property int         $id
 * @property string      $about  the row it was done for, as in “shot 12”
 * @property string      $what   in words
 * @property string      $reason
 * @property string      $work   serialized, to be done again
 * @property Carbon|null $updated_at
 */
final class Failure extends Model {}
