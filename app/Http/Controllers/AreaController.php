<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\FrameRequest;
use App\Http\Requests\PickRequest;
use App\Http\Requests\PlaceRequest;
use App\Models\Shot;
use App\Pictures\Readings;
use App\Treatment\FreshIds;
use App\Treatment\Picks;
use App\Treatment\Recipes;
use App\Treatment\Renderers;
use Cossel\Core\Colour\Oklab;
use Cossel\Core\Outline\AreaExtent;
use Cossel\Core\Propose\Pairing;
use Cossel\Core\Propose\WhiteBalance;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\RecipeWriter;
use Illuminate\Http\JsonResponse;

/** What is proposed for one area from its own pixels. Nothing is changed: it is for the recipe to take. */
final class AreaController
{
    public function __construct(private readonly Recipes $recipes, private readonly Readings $readings, private readonly RecipeWriter $writer) {}

    /** Where its colours lie, and what would make their mean grey. */
    public function colours(FrameRequest $request, Shot $shot, string $area): JsonResponse
    {
        $recipe = $request->recipe($this->recipes);
        $footage = $shot->readyFootage()->file();
        $colours = $this->readings->colours($footage, $recipe, $request->frame(), $recipe->area($area));
        if ($colours === null) {
            return new JsonResponse(null);
        }
        [$temperature, $tint] = WhiteBalance::of(array_map($footage->info->format()->transfer->linear(...), $colours->middle));

        return new JsonResponse([...get_object_vars($colours), 'balance' => ['temperature' => round($temperature, 1), 'tint' => round($tint, 1)]]);
    }

    /** Its pick with samples added, or with its ranges following the light or not. */
    public function pick(PickRequest $request, Shot $shot, string $area, Picks $picks): JsonResponse
    {
        $recipe = $request->recipe($this->recipes);
        $chosen = $recipe->area($area);
        $pick = $picks->proposed($shot->readyFootage()->file(), $recipe, $request->frame(), $chosen, $request->sample(), $request->follows());

        return new JsonResponse(['pick' => $this->document($recipe, $chosen->withTouches([])->withPick($pick))['pick']]);
    }

    /** The colour of a place as the picture enters the area: R'G'B' and Oklab. */
    public function sample(PlaceRequest $request, Shot $shot, string $area): JsonResponse
    {
        $recipe = $request->recipe($this->recipes);
        $footage = $shot->readyFootage()->file();
        $samples = $this->readings->samples($footage, $recipe, $request->frame(), $recipe->area($area), $request->at(), $request->at(), true);
        abort_if($samples === [], 422, 'That place lies outside the picture.');
        $lab = Oklab::fromLinear(...array_map($footage->info->format()->transfer->linear(...), $samples[0]->rgb));

        return new JsonResponse(['rgb' => $samples[0]->rgb, 'lab' => array_map(static fn(float $v): float => round($v, 5), $lab)]);
    }

    /** The offset a spot is best covered from. */
    public function cover(FrameRequest $request, Shot $shot, string $area): JsonResponse
    {
        $recipe = $request->recipe($this->recipes);
        [$x, $y] = $this->readings->cover($shot->readyFootage()->file(), $recipe, $request->frame(), $recipe->area($area));

        return new JsonResponse(['offset' => [round($x, 5), round($y, 5)]]);
    }

    /** The other eye: an area mirrored to where the picture is like it, linked to this one. */
    public function other(FrameRequest $request, Shot $shot, string $area, Renderers $renderers): JsonResponse
    {
        $recipe = $request->recipe($this->recipes);
        $frame = $request->frame();
        $chosen = $recipe->area($area);
        $to = $this->readings->otherEye($shot->readyFootage()->file(), $recipe, $frame, $chosen);
        abort_if($to === null, 422, 'Nothing like it is to be found on this frame. Go to one on which both can be seen, or draw the other one.');
        $ids = new FreshIds($this->writer->json($recipe));
        $other = Pairing::of($chosen, AreaExtent::of($chosen, $frame, $renderers->motions($recipe)), $frame, $to, $ids->of('a'), static fn(): string => $ids->of('s'));

        return new JsonResponse(['area' => $this->document($recipe, $other)]);
    }

    /** @return array<string, mixed> */
    private function document(Recipe $recipe, Area $area): array
    {
        return $this->writer->write(new Recipe($recipe->source, areas: [$area]))['areas'][0];
    }
}
