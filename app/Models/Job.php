<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Collection;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\HasMany;

/**
 * One piece of work: shots, people, deliveries.
 *
 * @property int                     $id
 * @property string                  $name
 * @property string|null             $origin what it is known by in bundles
 * @property Collection<int, Shot>   $shots
 * @property Collection<int, Person> $people
 * @property Collection<int, Preset> $presets
 * @property Collection<int, Treatment> $treatments
 */
final class Job extends Model
{
    /** @return HasMany<Shot, $this> */
    public function shots(): HasMany
    {
        return $this->hasMany(Shot::class)->orderBy('position')->orderBy('id');
    }

    /** @return HasMany<Preset, $this> */
    public function presets(): HasMany
    {
        return $this->hasMany(Preset::class)->orderBy('name');
    }

    /** @return HasMany<Treatment, $this> */
    public function treatments(): HasMany
    {
        return $this->hasMany(Treatment::class)->orderBy('name');
    }

    /** @return HasMany<Person, $this> */
    public function people(): HasMany
    {
        return $this->hasMany(Person::class)->orderBy('name');
    }
}
