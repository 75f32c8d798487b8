<?php

declare(strict_types=1);

namespace App\Treatment;

use App\Models\Footage;
use App\Models\Revision;
use App\Models\Shot;
use Cossel\Core\Recipe\InvalidRecipe;
use Cossel\Core\Recipe\Merge;
use Cossel\Core\Recipe\MergeConflict;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\RecipeReader;
use Cossel\Core\Recipe\RecipeWriter;
use Cossel\Core\Recipe\Source;
use Illuminate\Support\Facades\DB;

/**
 * The recipes of shots and their history. Every edit is a new revision; undo and redo move the shot's pointer. An edit
 * made on an older revision is merged with what was done since, or refused with the place where they clash.
 */
final class Recipes
{
    /** The first revision of a shot, but for its recipe. */
    public const FIRST = ['number' => 1, 'parent' => null, 'label' => 'Brought in'];

    public function __construct(private readonly RecipeReader $reader, private readonly RecipeWriter $writer, private readonly Tracks $tracks, private readonly AssetFiles $assets) {}

    /** Begins a shot's history with an untouched recipe. */
    public function begin(Shot $shot, Footage $footage): Revision
    {
        return $this->append($shot, null, $this->untouched($footage, $shot->from, $shot->to), self::FIRST['label']);
    }

    /** The recipe of a shot in which nothing is done yet, as JSON. */
    public function untouched(Footage $footage, int $from, int $to): string
    {
        $info = $footage->info();

        return $this->writer->json(new Recipe(new Source($footage->sha256, [$from, $to], $info->rate, [$info->width, $info->height])));
    }

    public function present(Shot $shot): Revision
    {
        return $shot->relationLoaded('presentRevision') ? $shot->presentRevision : $this->revision($shot, $shot->revision);
    }

    public function recipe(Shot $shot): Recipe
    {
        return $this->reader->read($this->present($shot)->document());
    }

    /** The recipe a request is about: one that is not saved yet, or the shot's own. */
    public function shown(Shot $shot, mixed $unsaved): Recipe
    {
        return $unsaved === null ? $this->recipe($shot) : $this->read($shot, $unsaved);
    }

    /**
     * @param mixed $document a whole recipe
     *
     * @throws InvalidRecipe when it breaks the format or names what does not exist
     */
    public function read(Shot $shot, mixed $document): Recipe
    {
        $recipe = $this->reader->read($document);
        if ($recipe->source->sha256 !== $shot->readyFootage()->sha256) {
            throw InvalidRecipe::at('/source/sha256', 'the footage of this shot', $recipe->source->sha256);
        }
        foreach ($recipe->areas as $i => $area) {
            if ($area->motion->track !== null && !$this->tracks->has($area->motion->track)) {
                throw InvalidRecipe::at("/areas/{$i}/motion/track/sha256", 'a track that was followed here or brought in', $area->motion->track);
            }
        }
        foreach ($recipe->assets as $name => ['sha256' => $sha256, 'kind' => $kind]) {
            if (!$this->assets->has($sha256, $kind)) {
                throw InvalidRecipe::at("/assets/{$name}/sha256", 'a file that was brought in here', $sha256);
            }
        }

        return $recipe;
    }

    /**
     * @param int   $base     number of the revision the edit was made on
     * @param mixed $document the whole recipe after the edit
     * @param string $label   what was done, in a few words
     *
     * @throws InvalidRecipe
     * @throws StaleEdit when it clashes with what was done since
     */
    public function save(Shot $shot, int $base, mixed $document, string $label): Revision
    {
        $recipe = $this->read($shot, $document);

        return DB::transaction(function () use ($shot, $base, $recipe, $label): Revision {
            $shot->refresh();
            if ($base !== $shot->revision) {
                $recipe = $this->merged($shot, $base, $recipe);
            }

            return $this->append($shot, $shot->revision, $this->writer->json($recipe), $label);
        });
    }

    /**
     * An edit made here, on whatever the recipe is by now.
     *
     * @param callable(array<string, mixed>): array<string, mixed> $edit
     */
    public function edit(Shot $shot, callable $edit, string $label): Revision
    {
        return DB::transaction(function () use ($shot, $edit, $label): Revision {
            $shot->refresh();
            $recipe = $this->read($shot, $edit($this->present($shot)->document()));

            return $this->append($shot, $shot->revision, $this->writer->json($recipe), $label);
        });
    }

    /**
     * Puts a recipe that was checked on top of whatever is there, even of a shot whose footage is not here yet.
     *
     * @param string $json as the writer writes it
     */
    public function putIn(Shot $shot, string $json, string $label): Revision
    {
        return DB::transaction(fn(): Revision => $this->append($shot, $shot->refresh()->revision ?: null, $json, $label));
    }

    /**
     * @param int $base number of the revision that whoever asks sees
     *
     * @throws StaleEdit when the shot stands on another by now: undo would take back something they do not know of
     */
    public function undo(Shot $shot, int $base): Revision
    {
        return $this->move($shot, $base, fn(): ?int => $this->present($shot)->parent);
    }

    /**
     * @param int $base number of the revision that whoever asks sees
     *
     * @throws StaleEdit when the shot stands on another by now
     */
    public function redo(Shot $shot, int $base): Revision
    {
        return $this->move($shot, $base, fn(): ?int => $this->child($shot));
    }

    /**
     * Makes an earlier revision the present recipe again, as a new revision: what was there before can be undone to.
     *
     * @param int $base number of the revision that whoever asks sees
     *
     * @throws StaleEdit when the shot stands on another by now: it would take off what they do not know of
     */
    public function restore(Shot $shot, int $base, int $number, string $label): Revision
    {
        return DB::transaction(function () use ($shot, $base, $number, $label): Revision {
            $shot->refresh();
            if ($base !== $shot->revision) {
                throw StaleEdit::before($this->present($shot)->label);
            }

            return $this->edit($shot, fn(): array => $this->revision($shot, $number)->document(), $label);
        });
    }

    /** What redo would bring back: the newest revision made from the present one. */
    public function child(Shot $shot): ?int
    {
        $number = $shot->revisions()->where('parent', $shot->revision)->max('number');

        return $number === null ? null : (int) $number;
    }

    public function label(Shot $shot, int $number): string
    {
        return $this->revision($shot, $number)->label;
    }

    private function merged(Shot $shot, int $base, Recipe $recipe): Recipe
    {
        $from = $shot->revisions()->where('number', $base)->first() ?? throw StaleEdit::unknownBase($base);
        try {
            return $this->reader->read(Merge::of($from->document(), json_decode($this->writer->json($recipe), true), $this->present($shot)->document()));
        } catch (MergeConflict $conflict) {
            throw StaleEdit::at($conflict->pointer);
        }
    }

    private function append(Shot $shot, ?int $parent, string $json, string $label): Revision
    {
        $number = 1 + (int) $shot->revisions()->max('number');
        $revision = $shot->revisions()->create(['number' => $number, 'parent' => $parent, 'label' => $label, 'recipe' => $json]);
        $shot->update(['revision' => $number]);

        return $revision;
    }

    /** @param callable(): (int|null) $to */
    private function move(Shot $shot, int $base, callable $to): Revision
    {
        return DB::transaction(function () use ($shot, $base, $to): Revision {
            $shot->refresh();
            if ($base !== $shot->revision) {
                throw StaleEdit::before($this->present($shot)->label);
            }
            $number = $to();
            if ($number !== null) {
                $shot->update(['revision' => $number]);
            }

            return $this->present($shot);
        });
    }

    public function revision(Shot $shot, int $number): Revision
    {
        return $shot->revisions()->where('number', $number)->firstOrFail();
    }
}
