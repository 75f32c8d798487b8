<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Shot;
use App\Pictures\BenchPictures;
use App\Pictures\PictureCache;
use App\Pictures\Readings;
use App\Pictures\Scope;
use App\Pictures\View;
use App\Treatment\Recipes;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\OnFrame;
use Cossel\Core\Recipe\Recipe;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Validation\Rule;

/**
 * Pictures for the bench. A request carries a revision, or a recipe that is not saved yet (while a control is being
 * dragged); only pictures of revisions are kept.
 */
final class PictureController
{
    public function __construct(private readonly BenchPictures $pictures, private readonly PictureCache $cache, private readonly Recipes $recipes) {}

    public function picture(Request $request, Shot $shot): Response
    {
        $wanted = $this->wanted($request, $shot, [
            'window' => ['nullable', 'array', 'size:4'],
            'window.*' => ['numeric', 'between:-20,20'],
            'reach' => ['boolean'],
        ]);
        [$recipe, $kept] = $this->recipe($request, $shot);
        $area = isset($wanted['area']) ? $recipe->area($wanted['area']) : null;
        $footage = $shot->readyFootage()->file();
        $window = isset($wanted['window']) ? array_map(floatval(...), array_values($wanted['window'])) : null;
        $make = function () use ($footage, $recipe, $wanted, $area, $window): string {
            $picture = $this->pictures->picture($footage, $recipe, $wanted['frame'], View::from($wanted['view']), $area, $wanted['height'], $window, $wanted['reach'] ?? false, $wanted['gain'] ?? 1);
            $place = [$picture->rect->x, $picture->rect->y, $picture->rect->width, $picture->rect->height, $picture->whole->width, $picture->whole->height];

            return implode(' ', $place) . "\n" . $picture->jpeg;
        };
        $packed = $kept === null ? $make() : $this->cache->get([self::acting($recipe, $shot, $wanted, $area) ?? $kept, $wanted], $make);
        [$place, $jpeg] = explode("\n", $packed, 2);

        return self::jpeg($jpeg, ['X-Picture-Place' => $place]);
    }

    public function witness(Request $request, Shot $shot): Response
    {
        $wanted = $this->wanted($request, $shot, ['width' => ['required', 'integer', 'between:16,800']]);
        [$recipe, $kept] = $this->recipe($request, $shot);
        $area = $recipe->area($wanted['area'] ?? '');
        $footage = $shot->readyFootage()->file();
        $make = fn(): string => $this->pictures->witness($footage, $recipe, $wanted['frame'], View::from($wanted['view']), $area, $wanted['width'], $wanted['height']);

        return self::jpeg($kept === null ? $make() : $this->cache->get(['witness', $kept, $wanted], $make));
    }

    public function scope(Request $request, Shot $shot, Readings $readings): JsonResponse
    {
        $wanted = $this->wanted($request, $shot, ['scope' => ['required', Rule::enum(Scope::class)], 'limited' => ['boolean']]);
        [$recipe] = $this->recipe($request, $shot);
        $area = isset($wanted['area']) ? $recipe->area($wanted['area']) : null;

        return new JsonResponse($readings->scope($shot->readyFootage()->file(), $recipe, $wanted['frame'], View::from($wanted['view']), Scope::from($wanted['scope']), $area, ($wanted['limited'] ?? false) && $area !== null));
    }

    /** The shot as it is now, or untreated, small, for lists. */
    public function poster(Request $request, Shot $shot): Response
    {
        $footage = $shot->readyFootage()->file();
        $view = $request->query('view') === 'original' ? View::Original : View::Result;
        $revision = $this->recipes->present($shot);
        $frame = intdiv($shot->from + $shot->to, 2);
        $jpeg = $this->cache->get(['poster', $shot->id, $revision->number, $view->value], fn(): string => $this->pictures->picture($footage, $this->recipes->recipe($shot), $frame, $view, null, 180, null, false)->jpeg);

        return self::jpeg($jpeg);
    }

    /**
     * @param array<string, list<mixed>> $more
     *
     * @return array<string, mixed>
     */
    private function wanted(Request $request, Shot $shot, array $more): array
    {
        $shot->readyFootage();

        return $request->validate([
            'frame' => ['required', 'integer', "between:{$shot->from},{$shot->to}"],
            'view' => ['required', Rule::enum(View::class)],
            'area' => ['nullable', 'string', 'max:64'],
            'height' => ['required', 'integer', 'between:16,8192'],
            'version' => ['nullable', 'integer'],
            'gain' => ['nullable', 'integer', 'between:1,16'],
            ...$more,
        ]);
    }

    /**
     * What a whole picture depends on besides what was asked: what acts on its frame, so that a picture is made again only
     * where an edit is to be seen. Views of an area's matte depend on more.
     *
     * @param array<string, mixed> $wanted
     *
     * @return array{int, string}|null
     */
    private static function acting(Recipe $recipe, Shot $shot, array &$wanted, ?Area $area): ?array
    {
        $view = View::from($wanted['view']);
        if ($view->showsMatte() || ($wanted['reach'] ?? false)) {
            return null;
        }
        unset($wanted['version']);

        return [$shot->id, OnFrame::digest(BenchPictures::shown($recipe, $view, $area), $wanted['frame'])];
    }

    /** @return array{Recipe, list<int>|null} and what to keep pictures of it under, if they are worth keeping */
    private function recipe(Request $request, Shot $shot): array
    {
        $version = $request->json('version');
        if ($version !== null) {
            $number = $shot->versions()->findOrFail($version)->number;

            return [$this->recipes->read($shot, $this->recipes->revision($shot, $number)->document()), [$shot->id, $number]];
        }
        $unsaved = $request->json('recipe');

        return [$this->recipes->shown($shot, $unsaved), $unsaved === null ? [$shot->id, $shot->revision] : null];
    }

    /**
     * @param array<string, string> $headers
     */
    private static function jpeg(string $jpeg, array $headers = []): Response
    {
        return new Response($jpeg, 200, ['Content-Type' => 'image/jpeg', 'Cache-Control' => 'no-store', ...$headers]);
    }
}
