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
 * @property array{of: string, features: array<string, array{float, float, float}>, face?: string|null}|null $likeness what tells them from others, and the shot and revision it is of
 */
final class Person extends Model
{
    protected $casts = ['likeness' => 'array'];
}
