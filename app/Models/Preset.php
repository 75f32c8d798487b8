<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * A way of delivering that a job keeps under a name.
 *
 * @property int                  $id
 * @property int                  $job_id
 * @property string               $name
 * @property array<string, mixed> $order format, handles, pattern of the files' names and wishes, as an order tells them
 */
final class Preset extends Model
{
    protected $casts = ['order' => 'array'];
}
