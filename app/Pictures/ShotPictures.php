<?php

declare(strict_types=1);

namespace App\Pictures;

use App\Models\Shot;
use App\Treatment\Recipes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\OnFrame;
use Cossel\Core\Recipe\Recipe;

/**
 * Pictures of shots, kept once they are made. Those of a recipe that is not saved yet (while a control is being dragged)
 * are not worth keeping.
 */
final class ShotPictures
{
    private const POSTER_HEIGHT = 180;

    public function __construct(private readonly BenchPictures $pictures, private readonly PictureCache $cache, private readonly Recipes $recipes) {}

    public function picture(Shot $shot, Wanted $wanted): Picture
    {
        $recipe = $this->recipe($shot, $wanted);
        $make = fn(): string => self::packed($this->made($shot, $wanted, $recipe));

        return self::unpacked($wanted->unsaved === null ? $this->cache->get($this->key($shot, $wanted, $recipe), $make) : $make());
    }

    public function witness(Shot $shot, Wanted $wanted, int $width): string
    {
        $recipe = $this->recipe($shot, $wanted);
        $area = $recipe->area($wanted->area ?? '');
        $make = fn(): string => $this->pictures->witness($shot->readyFootage()->file(), $recipe, $wanted->frame, $wanted->view, $area, $width, $wanted->height);

        return $wanted->unsaved === null ? $this->cache->get(['witness', $shot->id, $wanted->revision ?? $shot->revision, $width, ...$wanted->key()], $make) : $make();
    }

    /** The shot as it is now, or untreated, small, for lists. */
    public function poster(Shot $shot, View $view): string
    {
        return $this->picture($shot, new Wanted(intdiv($shot->from + $shot->to, 2), $view, null, self::POSTER_HEIGHT))->jpeg;
    }

    private function made(Shot $shot, Wanted $wanted, Recipe $recipe): Picture
    {
        $area = $wanted->area === null ? null : $recipe->area($wanted->area);

        return $this->pictures->picture($shot->readyFootage()->file(), $recipe, $wanted->frame, $wanted->view, $area, $wanted->height, $wanted->window, $wanted->reach, $wanted->gain);
    }

    /**
     * What a picture depends on: what acts on its frame, so that it is made again only where an edit is to be seen. Views of
     * an area's matte depend on more: on the whole revision.
     *
     * @return list<mixed>
     */
    private function key(Shot $shot, Wanted $wanted, Recipe $recipe): array
    {
        if ($wanted->view->showsMatte() || $wanted->reach) {
            return [$shot->id, $wanted->revision ?? $shot->revision, ...$wanted->key()];
        }
        $area = $wanted->area === null ? null : $recipe->area($wanted->area);

        return [$shot->id, OnFrame::digest(BenchPictures::shown($recipe, $wanted->view, $area), $wanted->frame), ...$wanted->key()];
    }

    private function recipe(Shot $shot, Wanted $wanted): Recipe
    {
        return $wanted->revision === null
            ? $this->recipes->shown($shot, $wanted->unsaved)
            : $this->recipes->read($shot, $this->recipes->revision($shot, $wanted->revision)->document());
    }

    private static function packed(Picture $picture): string
    {
        $place = [$picture->rect->x, $picture->rect->y, $picture->rect->width, $picture->rect->height, $picture->whole->width, $picture->whole->height];

        return implode(' ', $place) . "\n" . $picture->jpeg;
    }

    private static function unpacked(string $packed): Picture
    {
        [$place, $jpeg] = explode("\n", $packed, 2);
        [$x, $y, $width, $height, $wholeWidth, $wholeHeight] = array_map(intval(...), explode(' ', $place));

        return new Picture($jpeg, Rect::of($x, $y, $width, $height), Rect::of(0, 0, $wholeWidth, $wholeHeight));
    }
}
