<?php

declare(strict_types=1);

namespace App\Carrying;

use App\Models\Carry;
use App\Models\CarryState;
use App\Models\Job;
use App\Models\Shot;
use App\Models\ShotState;
use App\Models\Treatment as KeptTreatment;
use App\Treatment\AssetFiles;
use App\Treatment\Recipes;
use App\Treatment\Tracks;
use App\Work\MakeProposal;
use Cossel\Core\Carry\TreatmentFile;
use Cossel\Core\Recipe\InvalidRecipe;
use Cossel\Core\Recipe\RecipeReader;
use Cossel\Core\Recipe\RecipeWriter;
use Cossel\Core\Touch\MissingAsset;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;

/** Treatments of persons and areas that a job keeps under names, and lays onto its shots. */
final class KeptTreatments
{
    public function __construct(
        private readonly CarryOver $over,
        private readonly Recipes $recipes,
        private readonly RecipeReader $reader,
        private readonly RecipeWriter $writer,
        private readonly Tracks $tracks,
        private readonly AssetFiles $assets,
    ) {}

    /**
     * Keeps what is done in a shot; one of the same name gives way.
     *
     * @param list<string>      $areas
     * @param list<string>|null $touches ids of those that are kept; null for all
     *
     * @throws CannotCarry
     */
    public function keep(Shot $shot, string $name, array $areas, bool $base, bool $finish, ?array $touches = null): KeptTreatment
    {
        $recipe = $this->recipes->recipe($shot);
        if ($areas === [] && !$base && !$finish) {
            throw new CannotCarry('Nothing is chosen to be kept.');
        }
        $scene = new Scene($shot->readyFootage()->file(), $recipe, $this->tracks->of($recipe));
        $treatment = $this->over->treatment($scene, ['areas' => $areas, 'base' => $base, 'finish' => $finish, 'match' => true, 'touches' => $touches], whole: true);

        return $this->put($shot->job, $name, TreatmentFile::document($treatment, $recipe, $this->writer));
    }

    /**
     * Keeps what a file holds.
     *
     * @throws InvalidRecipe|MissingAsset
     */
    public function take(Job $job, string $name, mixed $document): KeptTreatment
    {
        foreach (TreatmentFile::read($document, $this->reader)->assets as $called => $asset) {
            $this->assets->has($asset['sha256'], $asset['kind']) || throw MissingAsset::named($called);
        }

        return $this->put($job, $name, $document);
    }

    /**
     * Proposes it for shots.
     *
     * @param list<int>   $shots
     * @param string|null $person whose its areas become; null for its own person where the job knows them, else nobody's
     *
     * @return Collection<int, Carry>
     *
     * @throws CannotCarry
     */
    public function lay(Job $job, KeptTreatment $kept, array $shots, ?string $person, bool $replace): Collection
    {
        $targets = $job->shots()->whereKey($shots)->where('state', ShotState::Ready)->get();
        if ($targets->isEmpty()) {
            throw new CannotCarry('No shot is chosen that it could be laid on.');
        }
        $treatment = TreatmentFile::read(json_decode($kept->recipe, true, flags: JSON_THROW_ON_ERROR), $this->reader);
        $own = $treatment->areas[0]->person ?? null;
        $person ??= $job->people()->where('slug', $own)->exists() ? $own : null;
        $what = ['areas' => [], 'base' => false, 'finish' => false, 'replace' => $replace, 'match' => true, 'treatment' => $kept->id, 'name' => $kept->name, 'person' => $person];

        return DB::transaction(static function () use ($targets, $what): Collection {
            $batch = (string) Str::uuid();
            foreach ($targets as $shot) {
                $carry = Carry::create(['batch' => $batch, 'source_id' => $shot->id, 'source_revision' => $shot->revision, 'shot_id' => $shot->id, 'state' => CarryState::Waiting, 'what' => $what]);
                MakeProposal::dispatch($carry->id);
            }

            return Carry::where('batch', $batch)->with('shot')->orderBy('id')->get();
        });
    }

    /** @param array<string, mixed> $document */
    private function put(Job $job, string $name, array $document): KeptTreatment
    {
        return $job->treatments()->updateOrCreate(['name' => $name], ['recipe' => json_encode($document, JSON_THROW_ON_ERROR | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE)]);
    }
}
