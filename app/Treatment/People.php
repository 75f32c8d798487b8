<?php

declare(strict_types=1);

namespace App\Treatment;

use App\Models\Job;
use App\Models\Person;
use App\Models\Shot;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;

/** The people of jobs. Recipes name them by a short id made from the name, which stays when they are renamed. */
final class People
{
    public function __construct(private readonly Recipes $recipes) {}

    /** Somebody of this very name is the same person; two different names never fall together. */
    public function add(Job $job, string $name): Person
    {
        return DB::transaction(static function () use ($job, $name): Person {
            $known = $job->people()->where('name', $name)->first();
            if ($known !== null) {
                return $known;
            }
            $taken = $job->people()->pluck('slug')->all();
            // Scripts that cannot be written in Latin letters leave nothing of a name.
            $stem = Str::limit(Str::slug($name), 40, '') ?: 'person';
            for ($slug = $stem, $n = 2; in_array($slug, $taken, true); ++$n) {
                $slug = "{$stem}-{$n}";
            }

            return $job->people()->create(['slug' => $slug, 'name' => $name]);
        });
    }

    public function rename(Person $person, string $name): void
    {
        abort_if(Person::where('job_id', $person->job_id)->where('name', $name)->whereKeyNot($person->id)->exists(), 422, 'There is somebody of this name already.');
        $person->update(['name' => $name]);
    }

    /** Their areas stay, as nobody's. */
    public function remove(Job $job, Person $person): void
    {
        foreach ($job->shots as $shot) {
            $this->leave($shot, $person);
        }
        $person->delete();
    }

    private function leave(Shot $shot, Person $person): void
    {
        if ($shot->revision === 0 || !in_array($person->slug, array_column($this->recipes->present($shot)->document()['areas'], 'person'), true)) {
            return;
        }
        $this->recipes->edit($shot, static function (array $document) use ($person): array {
            foreach ($document['areas'] as &$area) {
                if ($area['person'] === $person->slug) {
                    $area['person'] = null;
                }
            }

            return $document;
        }, "Remove {$person->name}");
    }
}
