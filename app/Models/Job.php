<?php

declare(strict_types=1);

namespace App\Models;

use App\Treatment\Recipes;
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
 * @property Collection<int, Shot>   $begun
 * @property Collection<int, Shot>   $posters
 * @property Collection<int, Person> $people
 * @property Collection<int, Preset> $presets
 * @property Collection<int, Treatment> $treatments
 */
final class Job extends Model
{
    private const POSTERS = 5;

    /** @return HasMany<Shot, $this> */
    public function shots(): HasMany
    {
        return $this->hasMany(Shot::class)->orderBy('position')->orderBy('id');
    }

    /** @return HasMany<Shot, $this> those in which something was done */
    public function begun(): HasMany
    {
        return $this->shots()->where('state', ShotState::Ready)->where('revision', '>', Recipes::FIRST['number']);
    }

    /** @return HasMany<Shot, $this> those that stand for it in a list */
    public function posters(): HasMany
    {
        return $this->shots()->where('state', ShotState::Ready)->limit(self::POSTERS);
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
