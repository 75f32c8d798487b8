<?php

declare(strict_types=1);

namespace App\Following;

use App\Models\Follow;
use App\Models\FollowState;
use App\Treatment\Recipes;
use App\Treatment\Tracks;
use App\Work\FollowArea;
use Cossel\Core\Motion\Gaze;
use Cossel\Core\Motion\Motions;
use Cossel\Core\Motion\Weakness;
use Cossel\Core\Propose\Ways;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Part;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\RecipeReader;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\DB;

/** A person that is followed at once: what each part sees of the others while all of it is under way, and one edit at its end. */
final class PersonFollow
{
    public function __construct(private readonly Recipes $recipes, private readonly RecipeReader $reader, private readonly Tracks $tracks) {}

    /** The recipe a part is followed by: what was found of the others is in it already, and the part is set to its own way. */
    public function recipe(Follow $follow): Recipe
    {
        $recipe = $this->reader->read($this->with($this->recipes->present($follow->shot)->document(), $this->found($follow)));
        $area = $recipe->area($follow->area);

        // It rides still, so that it is where the head has taken it on the frame it is followed from.
        return $recipe->withArea($area->withMotion($area->motion->withModel(Ways::of($area) ?? $area->motion->model)));
    }

    /**
     * A part is done with: what waited for it goes on, and after the last the recipe takes all that was found. All of it or nothing,
     * whenever the worker may die.
     *
     * @param array<string, mixed> $ended how, as its row is to say
     */
    public function over(Follow $follow, array $ended): void
    {
        DB::transaction(function () use ($follow, $ended): void {
            $follow->update($ended);
            if ($follow->state === FollowState::Failed && $follow->after === null) {
                Follow::where('person', $follow->person)->where('state', FollowState::Waiting)->update(['state' => FollowState::Failed, 'message' => 'The head could not be followed.']);
            }
            foreach (Follow::where('after', $follow->id)->where('state', FollowState::Waiting)->pluck('id') as $id) {
                FollowArea::dispatch($id);
            }
            if (Follow::where('person', $follow->person)->whereIn('state', FollowState::open())->doesntExist()) {
                $this->take($follow);
            }
        });
    }

    /** Puts what was found into the recipe; of a part that is followed again later, that alone. */
    private function take(Follow $follow): void
    {
        $found = $this->found($follow);
        $areas = $this->areas($this->recipes->recipe($follow->shot), $found);
        if ($areas === []) {
            return;
        }
        $this->lookTogether($this->with($this->recipes->present($follow->shot)->document(), $found), $areas, $found);
        $label = 'Follow ' . reset($areas)->name . (count($areas) > 1 ? ' and what is on it' : '');
        $revision = $this->recipes->edit($follow->shot, fn(array $document): array => $this->with($document, $found), $label);
        $first = Follow::where('person', $follow->person)->orderBy('id')->firstOrFail();
        $first->update(['message' => $this->words($this->reader->read($revision->document()), $areas, $first->area)]);
        // What is taken is the recipe's from here on.
        Follow::where('person', $follow->person)->update(['track' => null]);
    }

    /**
     * Irises that do not look where the other eye does are put right.
     *
     * @param array<string, mixed>    $document with all that was found
     * @param array<string, Area>     $areas    by id
     * @param Collection<int, Follow> $found
     */
    private function lookTogether(array $document, array $areas, Collection $found): void
    {
        $recipe = $this->reader->read($document);
        $followed = array_intersect_key(array_column($recipe->areas, null, 'id'), $areas);
        $eye = $found->first(static fn(Follow $one): bool => isset($followed[$one->area]) && $followed[$one->area]->is(Part::Iris)) ?? $found->firstOrFail();
        $mended = Gaze::together($followed, new Motions($recipe, $this->tracks->of($recipe)), $eye->start);
        foreach ($found as $one) {
            if (isset($mended[$one->area])) {
                $one->track = $this->tracks->keep($mended[$one->area]);
            }
        }
    }

    /**
     * @param array<string, mixed>    $document
     * @param Collection<int, Follow> $found
     *
     * @return array<string, mixed>
     */
    private function with(array $document, Collection $found): array
    {
        $areas = $this->areas($this->reader->read($document), $found);
        foreach ($found as $one) {
            if (isset($areas[$one->area])) {
                $document = Following::into($document, $one, $one->track, Ways::of($areas[$one->area]), Ways::guarded($areas[$one->area]));
            }
        }

        return $document;
    }

    /** @param non-empty-array<string, Area> $areas whose tracks are in the recipe */
    private function words(Recipe $recipe, array $areas, string $head): string
    {
        $track = static fn(string $area): ?string => array_column($recipe->areas, null, 'id')[$area]->motion->track ?? null;
        $on = $track($head);
        $weak = [];
        foreach ($areas as $id => $area) {
            $weak[] = Weakness::of($area->name, $this->tracks->get((string) $track($id)), $id === $head || $on === null ? null : $this->tracks->get($on));
        }
        $weak = array_filter($weak);

        return $weak === [] ? 'Nothing is weak.' : implode('. ', $weak) . '.';
    }

    /** @return Collection<int, Follow> those with something found that the recipe has not taken yet, the head first */
    private function found(Follow $follow): Collection
    {
        return Follow::where('person', $follow->person)->whereNotNull('track')->orderBy('id')->get();
    }

    /**
     * Their areas, without those that were removed meanwhile.
     *
     * @param Collection<int, Follow> $found
     *
     * @return array<string, Area> by id
     */
    private function areas(Recipe $recipe, Collection $found): array
    {
        return array_intersect_key(array_column($recipe->areas, null, 'id'), array_flip($found->pluck('area')->all()));
    }
}
