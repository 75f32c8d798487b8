<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Revision;
use App\Models\Shot;
use App\Treatment\Recipes;
use App\Treatment\Tracks;
use Cossel\Core\Motion\Motions;
use Cossel\Core\Recipe\Path;
use Cossel\Core\Recipe\PathPoint;
use Cossel\Core\Touch\InArea;
use Cossel\Core\Touch\Kind;
use Cossel\Core\Touch\Kinds;
use Cossel\Core\Touch\Legal;
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
            $track = $motions->track($area, $area->motion);
            $told = ['matrices' => [], 'confidence' => [], 'states' => [], 'open' => [], 'shapes' => []];
            for ($frame = $shot->from; $frame <= $shot->to; ++$frame) {
                $told['matrices'][] = self::rounded($motions->of($area, $frame)->m);
                $step = $track?->steps[$frame] ?? null;
                $told['confidence'][] = $step === null ? null : round($step->confidence, 3);
                $told['states'][] = $step?->state->value;
                $open = $motions->openness($area, $frame);
                $told['open'][] = $open === null ? null : round($open, 3);
                foreach ($area->outline->shapes as $shape) {
                    if ($shape->motion !== null) {
                        $told['shapes'][$shape->id]['matrices'][] = self::rounded($motions->ofShape($area, $shape, $frame)->m);
                    }
                    $warp = $shape instanceof Path ? $motions->place($area, $shape, $frame)->warp : null;
                    if ($shape instanceof Path && $warp !== null) {
                        $at = $shape->at($frame);
                        $told['shapes'][$shape->id]['shifts'][$frame] = array_map(static fn(PathPoint $from, PathPoint $to): array => self::rounded([$to->x - $from->x, $to->y - $from->y, $to->inX - $from->inX, $to->inY - $from->inY, $to->outX - $from->outX, $to->outY - $from->outY]), $at->points, $warp->path($at->points));
                    }
                }
            }
            $areas[$area->id] = [...$told, 'shapes' => (object) $told['shapes']];
        }

        return new JsonResponse(['from' => $shot->from, 'areas' => (object) $areas]);
    }

    /**
     * @param array<float> $numbers
     *
     * @return list<float>
     */
    private static function rounded(array $numbers): array
    {
        return array_values(array_map(static fn(float $v): float => round($v, 8), $numbers));
    }

    /** The kinds of touch there are and what they can be set to. */
    public function kinds(Kinds $kinds): JsonResponse
    {
        return new JsonResponse(array_map(static fn(Kind $kind): array => [
            'name' => $kind->name(),
            'inArea' => $kind instanceof InArea,
            'last' => $kind instanceof Legal,
            'parameters' => array_map(static fn(Parameter $parameter): array => ['type' => strtolower((new \ReflectionClass($parameter))->getShortName()), ...get_object_vars($parameter)], $kind->parameters()),
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
