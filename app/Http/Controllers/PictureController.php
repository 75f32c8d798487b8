<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\PictureRequest;
use App\Http\Requests\ScopeRequest;
use App\Http\Requests\WitnessRequest;
use App\Models\Shot;
use App\Pictures\Readings;
use App\Pictures\ShotPictures;
use App\Pictures\View;
use App\Treatment\Recipes;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;

/** Pictures for the bench, of the recipe as it is saved, of an earlier revision, or of one that is not saved yet. */
final class PictureController
{
    public function __construct(private readonly ShotPictures $pictures) {}

    public function picture(PictureRequest $request, Shot $shot): Response
    {
        $picture = $this->pictures->picture($shot, $request->wanted());
        $place = [$picture->rect->x, $picture->rect->y, $picture->rect->width, $picture->rect->height, $picture->whole->width, $picture->whole->height];

        return self::jpeg($picture->jpeg, ['X-Picture-Place' => implode(' ', $place)]);
    }

    public function witness(WitnessRequest $request, Shot $shot): Response
    {
        return self::jpeg($this->pictures->witness($shot, $request->wanted(), $request->width()));
    }

    public function scope(ScopeRequest $request, Shot $shot, Readings $readings, Recipes $recipes): JsonResponse
    {
        $wanted = $request->wanted();
        $recipe = $request->recipe($recipes);
        $area = $wanted->area === null ? null : $recipe->area($wanted->area);

        return new JsonResponse($readings->scope($shot->readyFootage()->file(), $recipe, $wanted->frame, $wanted->view, $request->scope(), $area, $request->limited() && $area !== null, $request->zoom()));
    }

    public function poster(Request $request, Shot $shot): Response
    {
        return self::jpeg($this->pictures->poster($shot, $request->query('view') === 'original' ? View::Original : View::Result));
    }

    /** @param array<string, string> $headers */
    private static function jpeg(string $jpeg, array $headers = []): Response
    {
        return new Response($jpeg, 200, ['Content-Type' => 'image/jpeg', 'Cache-Control' => 'no-store', ...$headers]);
    }
}
