<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * Somebody in a job, named in recipes by the slug.
 *
 * @property int    $id
 * @property int    $job_id
 * @property string $slug
 * @property string $name
 */
final class Person extends Model {}
