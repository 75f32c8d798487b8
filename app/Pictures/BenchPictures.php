<?php

declare(strict_types=1);

namespace App\Pictures;

use App\Footage\FootageFile;
use App\Footage\FrameCache;
use App\Treatment\Renderers;
use Cossel\Core\Judge\Witness;
use Cossel\Core\Outline\AreaExtent;
use Cossel\Core\Picture\Bytes;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Recipe;

/** The pictures the bench shows: the same rendering as a delivery's, at a size that suits the screen. */
final class BenchPictures
{
    /** Rows of the frames that witnesses are cut from at the most. */
    private const MOST_ROWS = 540;

    public function __construct(private readonly FrameCache $frames, private readonly Renderers $renderers) {}

    /** @param Recipe|null $standing of what the one who asks has already; only where the new one differs from it is made */
    public function showing(FootageFile $footage, Recipe $recipe, Wanted $wanted, ?Recipe $standing = null): Showing
    {
        $area = $wanted->area === null ? null : $recipe->area($wanted->area);
        if ($area !== null && $wanted->view->showsMatte() && $standing !== null && !in_array($area->id, array_column($standing->areas, 'id'), true)) {
            $standing = null;
        }

        return new Showing(
            $this->frames,
            $footage,
            $this->renderers->of(self::shown($recipe, $wanted->view, $area)),
            $wanted->view,
            $area,
            $wanted->height,
            $wanted->window,
            $wanted->gain,
            $standing === null ? null : $this->renderers->of(self::shown($standing, $wanted->view, $area)),
        );
    }

    /** @return \Closure(int): string witnesses of an area on any frame, as JPEG of this size */
    public function witnesses(FootageFile $footage, Recipe $recipe, View $view, Area $area, int $width, int $height): \Closure
    {
        $motions = $this->renderers->motions($recipe);
        $renderer = $this->renderers->of(self::shown($recipe, $view, $area));
        $showing = new Showing($this->frames, $footage, $renderer, $view, $area, $height);

        return function (int $number) use ($footage, $view, $area, $width, $height, $motions, $renderer, $showing): string {
            $extent = AreaExtent::of($area, $number, $motions);
            $along = $motions->surface($area, $number)->upright($extent->x, $extent->y);
            $on = static fn(Rect $whole): Witness => Witness::of($area, $motions, $along, $whole, $width, $height);
            // From the smallest frames that show as much as the crop can; the greatest of those that are decoded ahead at the most.
            $unit = 1000;
            $rows = (int) ceil($unit / max(1e-3, $on(Rect::of(0, 0, intdiv($unit * $footage->info->width, $footage->info->height), $unit))->pixels()));
            $frame = $this->frames->frame($footage, $number, FrameCache::kept($footage->info, min($rows, self::MOST_ROWS)));
            $whole = $frame->format->rect();
            $witness = $on($whole);
            $needs = $witness->needs($whole);
            if ($needs->isEmpty()) {
                $needs = Rect::of(0, 0, 2, 2);
            }
            TooCostly::check($renderer, $frame, $number, $needs, 'picture');
            if ($view === View::Matte) {
                $matte = $renderer->matte($frame, $area, $number, $needs)->v;
                $planes = new Planes($needs, $matte, $matte, $matte);
            } else {
                $planes = Planes::joined($needs, $showing->bands($frame, $number, $needs));
            }

            return Jpeg::encode(Bytes::bgrx8($witness->crop($planes)), $width, $height);
        };
    }

    /** The recipe as a view has it: without what the view leaves out. */
    public static function shown(Recipe $recipe, View $view, ?Area $area): Recipe
    {
        return match ($view) {
            View::Result, View::Matte, View::Tint, View::Picked, View::Difference => $recipe,
            View::Original => new Recipe($recipe->source),
            View::Base => new Recipe($recipe->source, $recipe->assets, $recipe->base),
            View::Without => $recipe->withAreas(static fn(Area $a): Area => $a->id === $area?->id ? $a->off() : $a),
        };
    }
}
