<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Revision;
use App\Models\Shot;
use App\Treatment\Recipes;
use App\Treatment\Tracks;
use Cossel\Core\Motion\Motions;
use Cossel\Core\Touch\Kind;
use Cossel\Core\Touch\Kinds;
use Cossel\Core\Touch\Parameter;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** The recipe of a shot: reading, editing, undo and redo, and where its areas are. */
final class RecipeController
{
    public function __construct(private readonly Recipes $recipes) {}

    public function show(Shot $shot): JsonResponse
    {
        $shot->readyFootage();

        return $this->answer($shot, $this->recipes->present($shot));
    }

    public function update(Request $request, Shot $shot): JsonResponse
    {
        $edit = $request->validate(['base' => ['required', 'integer'], 'label' => ['required', 'string', 'max:120'], 'recipe' => ['required', 'array']]);

        return $this->answer($shot, $this->recipes->save($shot, $edit['base'], $request->json('recipe'), $edit['label']));
    }

    public function undo(Shot $shot): JsonResponse
    {
        return $this->answer($shot, $this->recipes->undo($shot));
    }

    public function redo(Shot $shot): JsonResponse
    {
        return $this->answer($shot, $this->recipes->redo($shot));
    }

    /** Where every area is on every frame of the span, as the renderer has it: the handles are drawn with this. */
    public function motions(Shot $shot, Tracks $tracks): JsonResponse
    {
        $recipe = $this->recipes->recipe($shot);
        $known = $tracks->of($recipe);
        $motions = new Motions($recipe, $known);
        $areas = [];
        foreach ($recipe->areas as $area) {
            $matrices = $confidence = $states = [];
            $track = $area->motion->track === null ? null : $known[$area->motion->track] ?? null;
            for ($frame = $shot->from; $frame <= $shot->to; ++$frame) {
                $matrices[] = array_map(static fn(float $v): float => round($v, 8), $motions->of($area, $frame)->m);
                $step = $track->steps[$frame] ?? null;
                $confidence[] = $step === null ? null : round($step->confidence, 3);
                $states[] = $step?->state->value;
            }
            $areas[$area->id] = ['matrices' => $matrices, 'confidence' => $confidence, 'states' => $states];
        }

        return new JsonResponse(['from' => $shot->from, 'areas' => (object) $areas]);
    }

    /** The kinds of touch there are and what they can be set to. */
    public function kinds(Kinds $kinds): JsonResponse
    {
        return new JsonResponse(array_map(static fn(Kind $kind): array => [
            'name' => $kind->name(),
            'parameters' => array_map(static fn(Parameter $parameter): array => get_object_vars($parameter), $kind->parameters()),
        ], $kinds->list()));
    }

    private function answer(Shot $shot, Revision $revision): JsonResponse
    {
        $redo = $this->recipes->child($shot);

        return new JsonResponse([
            'revision' => $revision->number,
            'parent' => $revision->parent,
            'undo' => $revision->parent === null ? null : $revision->label,
            'redo' => $redo === null ? null : $this->recipes->label($shot, $redo),
            'recipe' => json_decode($revision->recipe),
        ]);
    }
}
