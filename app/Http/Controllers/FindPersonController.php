<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Footage\FollowedFootage;
use App\Footage\FrameCache;
use App\Http\Requests\FindPersonRequest;
use App\Models\Shot;
use App\Treatment\FreshIds;
use App\Treatment\Recipes;
use Cossel\Core\Propose\FoundPerson;
use Cossel\Core\Propose\Landmarks;
use Cossel\Core\Propose\Person;
use Cossel\Core\Propose\Proposal;
use Cossel\Core\Recipe\Live;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\RecipeWriter;
use Illuminate\Http\JsonResponse;

/** The people on a frame and areas proposed for them, from landmarks the browser found. Nothing is changed: they are for the recipe to take. */
final class FindPersonController
{
    /** A face that is smaller than this is looked at in a larger picture, pixels; and rows of the largest. */
    private const SMALL = 150;
    private const ROWS = 1080;

    public function __invoke(FindPersonRequest $request, Shot $shot, Recipes $recipes, RecipeWriter $writer, FrameCache $frames): JsonResponse
    {
        $recipe = $recipes->recipe($shot);
        $ids = new FreshIds($writer->json($recipe));
        $faces = $request->faces();
        $footage = $shot->readyFootage()->file();
        $source = new FollowedFootage($frames, $footage, self::rows($faces, min(self::ROWS, $footage->info->height)));
        $people = Person::found($source, $faces, $request->frame(), new Live($shot->from, $shot->to), $ids->of(...));

        return new JsonResponse(['people' => array_map(static fn(FoundPerson $person): array => [
            'whole' => $person->whole,
            'box' => $person->box,
            'areas' => $writer->write(new Recipe($recipe->source, areas: array_map(static fn(Proposal $p) => $p->area, $person->proposals)))['areas'],
            'doubts' => (object) array_filter(array_combine(array_map(static fn(Proposal $p): string => $p->area->id, $person->proposals), array_map(static fn(Proposal $p): ?string => $p->doubt, $person->proposals))),
        ], $people)]);
    }

    /** @param list<Landmarks> $faces */
    private static function rows(array $faces, int $most): int
    {
        $least = min([INF, ...array_map(static fn(Landmarks $face): float => $face->width(), $faces)]);

        return $least * FollowedFootage::HEIGHT > self::SMALL ? FollowedFootage::HEIGHT : max(FollowedFootage::HEIGHT, $most);
    }
}
