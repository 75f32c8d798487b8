<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * Somebody's word that a part is judged. It holds as long as what is seen in the area stays the same.
 *
 * @property int    $id
 * @property int    $shot_id
 * @property string $area
 * @property string $digest of what is seen in the area, see {@see \Cossel\Core\Judge\Influence}
 */
final class Tick extends Model {}
