<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * A treatment that a job keeps under a name, for other shots.
 *
 * @property int    $id
 * @property int    $job_id
 * @property string $name
 * @property string $recipe JSON, as App\Carrying\TreatmentFile writes it
 */
final class Treatment extends Model {}
