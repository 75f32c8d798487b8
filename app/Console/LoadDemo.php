<?php

declare(strict_types=1);

namespace App\Console;

use App\Judging\Ticks;
use App\Models\Job;
use App\Models\Shot;
use App\Treatment\Recipes;
use App\Treatment\Removal;
use App\Treatment\Tracks;
use Cossel\Core\Motion\Track;
use Illuminate\Console\Command;
use Illuminate\Support\Str;

final class LoadDemo extends Command
{
    private const JOB = 'The Verrin Glasshouse';
    /** Its name until it is whole: one that was broken off is begun anew. */
    private const LOADING = self::JOB . ' (loading)';
    private const PEOPLE = ['Ione', 'Dario', 'Wren'];
    private const SHOTS = [
        'gh010_backlit' => 'Dario. Bright panes behind, the face about two stops under. Open it, keep the panes.',
        'gh020_laugh' => 'Ione. Teeth a little yellow, lips too loud.',
        'gh030_gaze' => 'Wren. Green eyes wanted; two blinks.',
        'gh040_skin' => 'Wren. Redness, two spots; a cloud passes from frame 34.',
        'gh050_leaf' => 'Dario. Hand-held; a leaf passes in front of the face.',
        'gh060_two' => 'Ione and Wren. Two people; one comes forward past the other.',
    ];

    /** Shots whose every part somebody has judged. */
    private const JUDGED = ['gh010_backlit', 'gh020_laugh'];

    protected $signature = 'cossel:load-demo {--untreated : without the finished treatments}';

    protected $description = 'Loads the demo job, if it is not there yet';

    public function handle(Recipes $recipes, Tracks $tracks, Ticks $ticks, Removal $removal): int
    {
        if (Job::where('name', self::JOB)->exists()) {
            return 0;
        }
        foreach (Job::where('name', self::LOADING)->get() as $left) {
            $removal->job($left);
        }
        $job = Job::create(['name' => self::LOADING]);
        foreach (self::PEOPLE as $name) {
            $job->people()->create(['name' => $name, 'slug' => Str::slug($name)]);
        }
        foreach (self::SHOTS as $name => $notes) {
            if ($this->call('cossel:import', ['files' => [base_path("demo/footage/{$name}.webm")], '--job' => self::LOADING]) !== 0) {
                return 1;
            }
            $shot = Shot::where(['job_id' => $job->id, 'name' => $name])->firstOrFail();
            $shot->update(['notes' => $notes]);
            if (!$this->option('untreated')) {
                $this->treat($shot, $recipes, $tracks, $ticks);
            }
        }
        $job->update(['name' => self::JOB]);

        return 0;
    }

    /** Gives a shot its finished treatment, where demo/recipes has one. */
    private function treat(Shot $shot, Recipes $recipes, Tracks $tracks, Ticks $ticks): void
    {
        $recipe = base_path("demo/recipes/{$shot->name}.recipe.json");
        if (!is_file($recipe)) {
            return;
        }
        foreach (glob(base_path("demo/recipes/{$shot->name}.*.track.json")) ?: [] as $track) {
            $tracks->keep(Track::read(json_decode((string) file_get_contents($track), true, flags: JSON_THROW_ON_ERROR)));
        }
        $recipes->save($shot, $shot->revision, json_decode((string) file_get_contents($recipe), true, flags: JSON_THROW_ON_ERROR), 'Demo treatment');
        foreach (in_array($shot->name, self::JUDGED, true) ? $recipes->recipe($shot)->areas : [] as $area) {
            $ticks->set($shot, $recipes->recipe($shot), $area->id);
        }
    }
}
