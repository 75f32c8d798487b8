<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Shot;
use App\Pictures\Readings;
use App\Treatment\FreshIds;
use App\Treatment\Recipes;
use App\Treatment\Renderers;
use Cossel\Core\Colour\Oklab;
use Cossel\Core\Outline\Extents;
use Cossel\Core\Pick\Ranges;
use Cossel\Core\Propose\Pairing;
use Cossel\Core\Propose\WhiteBalance;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Pick;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\RecipeWriter;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** What is proposed for one area from its own pixels. Nothing is changed: it is for the recipe to take. */
final class AreaController
{
    public function __construct(private readonly Recipes $recipes, private readonly Readings $readings, private readonly RecipeWriter $writer) {}

    /** Where its colours lie, and what would make their mean grey. */
    public function colours(Request $request, Shot $shot, string $area): JsonResponse
    {
        $frame = self::frame($request, $shot);
        $recipe = $this->recipes->shown($shot, $request->json('recipe'));
        $footage = $shot->readyFootage()->file();
        $colours = $this->readings->colours($footage, $recipe, $frame, $recipe->area($area));
        if ($colours === null) {
            return new JsonResponse(null);
        }
        [$temperature, $tint] = WhiteBalance::of(array_map($footage->info->format()->transfer->linear(...), $colours->middle));

        return new JsonResponse([...get_object_vars($colours), 'balance' => ['temperature' => round($temperature, 1), 'tint' => round($tint, 1)]]);
    }

    /** Its pick with samples added, or with its ranges following the light or not. */
    public function pick(Request $request, Shot $shot, string $area): JsonResponse
    {
        $frame = self::frame($request, $shot);
        $place = ['numeric', 'between:-20,20'];
        $wanted = $request->validate([
            'sign' => ['nullable', 'in:+,-'],
            'from' => ['required_with:sign', 'array', 'size:2'], 'from.*' => $place,
            'to' => ['required_with:sign', 'array', 'size:2'], 'to.*' => $place,
            'follow' => ['required', 'boolean'],
        ]);
        $recipe = $this->recipes->shown($shot, $request->json('recipe'));
        $chosen = $recipe->area($area);
        $footage = $shot->readyFootage()->file();
        $pick = $chosen->pick ?? new Pick();
        $samples = $pick->samples;
        if (isset($wanted['sign'])) {
            $pair = static fn(array $p): array => [(float) $p[0], (float) $p[1]];
            $samples = [...$samples, ...$this->readings->samples($footage, $recipe, $frame, $chosen, $pair($wanted['from']), $pair($wanted['to']), $wanted['sign'] === '+')];
            abort_if(count($samples) > 64, 422, 'A pick holds 64 samples. Take some away first.');
        }
        $follow = $wanted['follow'] ? $pick->follow ?? round($this->readings->meanLight($footage, $recipe, $frame, $chosen), 4) : null;
        $proposed = isset($wanted['sign']) ? Ranges::proposed($pick, $samples, $footage->info->format()->transfer, $follow) : $pick->withRanges($samples, $pick->hue, $pick->chroma, $pick->light, $follow);

        return new JsonResponse(['pick' => $this->document($recipe, $chosen->withTouches([])->withPick($proposed))['pick']]);
    }

    /** The colour of a place as the picture enters the area: R'G'B' and Oklab. */
    public function sample(Request $request, Shot $shot, string $area): JsonResponse
    {
        $frame = self::frame($request, $shot);
        $wanted = $request->validate(['at' => ['required', 'array', 'size:2'], 'at.*' => ['numeric', 'between:-20,20']]);
        $recipe = $this->recipes->shown($shot, $request->json('recipe'));
        $footage = $shot->readyFootage()->file();
        $at = [(float) $wanted['at'][0], (float) $wanted['at'][1]];
        $samples = $this->readings->samples($footage, $recipe, $frame, $recipe->area($area), $at, $at, true);
        abort_if($samples === [], 422, 'That place lies outside the picture.');
        $lab = Oklab::fromLinear(...array_map($footage->info->format()->transfer->linear(...), $samples[0]->rgb));

        return new JsonResponse(['rgb' => $samples[0]->rgb, 'lab' => array_map(static fn(float $v): float => round($v, 5), $lab)]);
    }

    /** The offset a spot is best covered from. */
    public function cover(Request $request, Shot $shot, string $area): JsonResponse
    {
        $frame = self::frame($request, $shot);
        $recipe = $this->recipes->shown($shot, $request->json('recipe'));
        [$x, $y] = $this->readings->cover($shot->readyFootage()->file(), $recipe, $frame, $recipe->area($area));

        return new JsonResponse(['offset' => [round($x, 5), round($y, 5)]]);
    }

    /** The other eye: an area mirrored to where the picture is like it, linked to this one. */
    public function other(Request $request, Shot $shot, string $area, Renderers $renderers): JsonResponse
    {
        $frame = self::frame($request, $shot);
        $recipe = $this->recipes->shown($shot, $request->json('recipe'));
        $chosen = $recipe->area($area);
        $to = $this->readings->otherEye($shot->readyFootage()->file(), $recipe, $frame, $chosen);
        abort_if($to === null, 422, 'Nothing like it is to be found on this frame. Go to one on which both can be seen, or draw the other one.');
        $ids = new FreshIds($this->writer->json($recipe));
        $other = Pairing::of($chosen, Extents::of($chosen, $frame, $renderers->motions($recipe)), $frame, $to, $ids->of('a'), static fn(): string => $ids->of('s'));

        return new JsonResponse(['area' => $this->document($recipe, $other)]);
    }

    /** @return array<string, mixed> */
    private function document(Recipe $recipe, Area $area): array
    {
        return $this->writer->write(new Recipe($recipe->source, areas: [$area]))['areas'][0];
    }

    private static function frame(Request $request, Shot $shot): int
    {
        $shot->readyFootage();

        return (int) $request->validate(['frame' => ['required', 'integer', "between:{$shot->from},{$shot->to}"]])['frame'];
    }
}
