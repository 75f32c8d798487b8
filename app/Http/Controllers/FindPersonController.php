<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Carrying\KnownPeople;
use App\Faces\Faces;
use App\Finding\Finder;
use App\Footage\FileLock;
use App\Http\Requests\FrameRequest;
use App\Models\Shot;
use App\Treatment\FreshIds;
use App\Treatment\Recipes;
use Cossel\Core\Propose\FoundPerson;
use Cossel\Core\Propose\Proposal;
use Cossel\Core\Recipe\Live;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\RecipeWriter;
use Illuminate\Http\JsonResponse;
use Illuminate\Support\Facades\Storage;

/** The people on a frame and areas proposed for them. Nothing is changed: they are for the recipe to take. */
final class FindPersonController
{
    public function __invoke(FrameRequest $request, Shot $shot, Recipes $recipes, RecipeWriter $writer, Finder $finder, Faces $faces, KnownPeople $known): JsonResponse
    {
        // One bench at a time, whatever it asks for: each asks for seconds of what makes the pictures of all.
        $bench = hash('xxh128', $request->header('X-Bench') ?? (string) $request->ip());

        return FileLock::hold(Storage::disk('data')->path("finding-{$bench}.lock"), fn(): JsonResponse => $this->found($request, $shot, $recipes, $writer, $finder, $faces, $known), false)
            ?? new JsonResponse(['message' => 'People are being looked for already. Wait until that is done.'], 429);
    }

    private function found(FrameRequest $request, Shot $shot, Recipes $recipes, RecipeWriter $writer, Finder $finder, Faces $faces, KnownPeople $known): JsonResponse
    {
        $recipe = $recipes->recipe($shot);
        $ids = new FreshIds($writer->json($recipe));
        $frame = $request->frame();
        $footage = $shot->readyFootage()->file();
        $people = $finder->on($footage, [$frame], new Live($shot->from, $shot->to), $ids->of(...))[$frame];
        $seen = $faces->known($footage, $shot->from, $shot->to);
        $near = $people === [] ? $seen->nearest($frame) : null;
        // Who it is goes by what is seen here.
        $alike = $known->guessed($shot, $frame, $people);
        $better = $finder->better($footage, $people, $frame, $seen, new Live($shot->from, $shot->to), $ids->of(...));

        return new JsonResponse(['most' => Finder::MOST, 'near' => $near, 'people' => array_map(static fn(FoundPerson $person, array $best, ?array $alike): array => [
            'alike' => $alike,
            'best' => $best,
            'whole' => $person->whole,
            'box' => $person->box,
            'areas' => $writer->write(new Recipe($recipe->source, areas: array_map(static fn(Proposal $p) => $p->area, [...$person->proposals, ...$person->more])))['areas'],
            'more' => array_map(static fn(Proposal $p): string => $p->area->id, $person->more),
            'doubts' => (object) array_filter(array_combine(array_map(static fn(Proposal $p): string => $p->area->id, $person->proposals), array_map(static fn(Proposal $p): ?string => $p->doubt, $person->proposals))),
        ], array_column($better, 0), array_column($better, 1), $alike)]);
    }
}
