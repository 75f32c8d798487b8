<?php

declare(strict_types=1);

namespace App\Pictures;

use App\Footage\FootageFile;
use App\Footage\FrameCache;
use App\Treatment\Renderers;
use Cossel\Core\Judge\Witness;
use Cossel\Core\Picture\Bytes;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Render\FrameRenderer;

/** The pictures the bench shows: the same rendering as a delivery's, at a size that suits the screen. */
final class BenchPictures
{
    /** Heights the bench asks for at its usual size: the picture, then witnesses, reduced pictures and tell-tales, scopes. */
    public const USUAL_HEIGHTS = [540, 360, 270, 180];
    /** How strongly the tint veils the picture. */
    private const VEIL = 0.45;
    /** Pixels of a matte that are held at once. */
    private const AT_ONCE = 4_000_000;
    /** What a picked area stands on. */
    private const GREY = 0.42;

    public function __construct(private readonly FrameCache $frames, private readonly Renderers $renderers) {}

    /**
     * @param array{float, float, float, float}|null $window left, top, right, bottom in picture heights; null for all
     * @param bool                                   $reach  only as far as the area's inside goes
     * @param int                                    $gain   of a difference
     */
    public function picture(FootageFile $footage, Recipe $recipe, int $number, View $view, ?Area $area, int $height, ?array $window, bool $reach, int $gain = 1): Picture
    {
        $frame = $this->frames->frame($footage, $number, FrameCache::kept($footage->info, $height));
        $whole = $frame->format->rect();
        $renderer = $this->renderers->of(self::shown($recipe, $view, $area));
        $rect = $whole;
        if ($window !== null) {
            $h = $whole->height;
            $rect = Rect::around($window[0] * $h, $window[1] * $h, $window[2] * $h, $window[3] * $h)->intersect($whole);
        }
        if ($reach && $area !== null) {
            $alone = $this->renderers->of(self::only($recipe, $area));
            $rect = array_reduce($alone->touched($frame, $number), static fn(Rect $sum, Rect $r): Rect => $sum->union($r), Rect::none())->intersect($rect);
        }
        if ($rect->isEmpty()) {
            $rect = Rect::of(0, 0, 1, 1);
        }
        TooCostly::check($renderer, $frame, $number, $rect, 'picture');
        $bytes = $view === View::Matte && $area !== null
            ? implode('', array_map(static fn(Rect $band): string => Bytes::greyBgrx8($renderer->matte($frame, $area, $number, $band)), $rect->bands($rect->count() > self::AT_ONCE ? intdiv(self::AT_ONCE, $rect->width) : $rect->height)))
            : self::bytes($this->veiled($renderer->bands($frame, $number, $rect), $view, $area, $renderer, $frame, $number, $gain));

        return new Picture(Jpeg::encode($bytes, $rect->width, $rect->height), $rect, $whole);
    }

    /** A witness of an area as a JPEG of this size. */
    public function witness(FootageFile $footage, Recipe $recipe, int $number, View $view, Area $area, int $width, int $height): string
    {
        $motions = $this->renderers->motions($recipe);
        $on = static fn(Rect $whole): Witness => Witness::of($area, $motions, $motions->of($area, $number), $whole, $width, $height);
        // From the smallest frames that show as much as the crop can; the greatest of those that are decoded ahead at the most.
        $unit = 1000;
        $rows = (int) ceil($unit / max(1e-3, $on(Rect::of(0, 0, intdiv($unit * $footage->info->width, $footage->info->height), $unit))->pixels()));
        $frame = $this->frames->frame($footage, $number, FrameCache::kept($footage->info, min($rows, self::USUAL_HEIGHTS[0])));
        $whole = $frame->format->rect();
        $witness = $on($whole);
        $needs = $witness->needs($whole);
        if ($needs->isEmpty()) {
            $needs = Rect::of(0, 0, 2, 2);
        }
        $renderer = $this->renderers->of(self::shown($recipe, $view, $area));
        TooCostly::check($renderer, $frame, $number, $needs, 'picture');
        if ($view === View::Matte) {
            $matte = $renderer->matte($frame, $area, $number, $needs)->v;
            $planes = new Planes($needs, $matte, $matte, $matte);
        } else {
            $planes = Planes::joined($needs, $this->veiled($renderer->bands($frame, $number, $needs), $view, $area, $renderer, $frame, $number));
        }

        return Jpeg::encode(Bytes::bgrx8($witness->crop($planes)), $width, $height);
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

    /**
     * Bands with an area's matte shown: as a light veil, or as the area alone over grey; or with what was changed, around mid
     * grey. Other views stay as they are.
     *
     * @param iterable<Planes> $bands
     *
     * @return iterable<Planes>
     */
    private function veiled(iterable $bands, View $view, ?Area $area, FrameRenderer $renderer, Frame $frame, int $number, int $gain = 1): iterable
    {
        foreach ($bands as $planes) {
            if ($view === View::Difference) {
                $before = $frame->window($planes->rect);
                foreach ($before->r as $i => $r) {
                    $planes->r[$i] = 0.5 + $gain * ($planes->r[$i] - $r);
                    $planes->g[$i] = 0.5 + $gain * ($planes->g[$i] - $before->g[$i]);
                    $planes->b[$i] = 0.5 + $gain * ($planes->b[$i] - $before->b[$i]);
                }
            }
            if ($area !== null && ($view === View::Tint || $view === View::Picked)) {
                [$level, $least, $most] = $view === View::Tint ? [1.0, 0.0, self::VEIL] : [self::GREY, 1.0, -1.0];
                foreach ($renderer->matte($frame, $area, $number, $planes->rect)->v as $i => $m) {
                    $k = $least + $most * $m;
                    $planes->r[$i] += ($level - $planes->r[$i]) * $k;
                    $planes->g[$i] += ($level - $planes->g[$i]) * $k;
                    $planes->b[$i] += ($level - $planes->b[$i]) * $k;
                }
            }
            yield $planes;
        }
    }

    /** A recipe in which one area alone does something; the others are there for it to ride on and be made of. */
    private static function only(Recipe $recipe, Area $area): Recipe
    {
        $alone = $recipe->withAreas(static fn(Area $a): Area => $a->withTouches($a->id === $area->id ? $recipe->touches($area) : []));

        return new Recipe($recipe->source, $recipe->assets, areas: $alone->areas);
    }

    /** @param iterable<Planes> $bands */
    private static function bytes(iterable $bands): string
    {
        $bytes = '';
        foreach ($bands as $planes) {
            $bytes .= Bytes::bgrx8($planes);
        }

        return $bytes;
    }
}
