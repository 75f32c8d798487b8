<?php

declare(strict_types=1);

namespace App\Pictures;

use App\Footage\FootageFile;
use App\Footage\FrameCache;
use App\Treatment\Renderers;
use Cossel\Core\Judge\Waveform;
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
    /** Heights the bench asks for at its usual size: the picture, then witnesses and reduced pictures. */
    public const USUAL_HEIGHTS = [540, 360, 180];
    /** How strongly the tint veils the picture. */
    private const VEIL = 0.45;
    private const WAVE_COLUMNS = 320;
    private const WAVE_ROWS = 120;

    public function __construct(private readonly FrameCache $frames, private readonly Renderers $renderers) {}

    /**
     * @param array{float, float, float, float}|null $window left, top, right, bottom in picture heights; null for all
     * @param bool                                   $reach  only as far as the area's inside goes
     */
    public function picture(FootageFile $footage, Recipe $recipe, int $number, View $view, ?Area $area, int $height, ?array $window, bool $reach): Picture
    {
        $frame = $this->frames->frame($footage, $number, FrameCache::kept($footage->info, $height));
        $whole = $frame->format->rect();
        $renderer = $this->renderers->of($this->shown($recipe, $view, $area));
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
        $bytes = $view === View::Matte && $area !== null
            ? Bytes::greyBgrx8($renderer->matte($frame, $area, $number, $rect))
            : self::bytes($this->tinted($renderer->bands($frame, $number, $rect), $view === View::Tint ? $area : null, $renderer, $frame, $number));

        return new Picture(Jpeg::encode($bytes, $rect->width, $rect->height), $rect, $whole);
    }

    /** A witness of an area as a JPEG of this size. */
    public function witness(FootageFile $footage, Recipe $recipe, int $number, View $view, Area $area, int $width, int $height): string
    {
        $frame = $this->frames->frame($footage, $number, FrameCache::kept($footage->info, 2 * $height));
        $whole = $frame->format->rect();
        $motions = $this->renderers->motions($recipe);
        $witness = Witness::of($area, $motions, $motions->of($area, $number), $whole, $width, $height);
        $needs = $witness->needs($whole);
        if ($needs->isEmpty()) {
            $needs = Rect::of(0, 0, 2, 2);
        }
        $renderer = $this->renderers->of($this->shown($recipe, $view, $area));
        if ($view === View::Matte) {
            $matte = $renderer->matte($frame, $area, $number, $needs)->v;
            $planes = new Planes($needs, $matte, $matte, $matte);
        } else {
            $planes = self::joined($this->tinted($renderer->bands($frame, $number, $needs), $view === View::Tint ? $area : null, $renderer, $frame, $number), $needs);
        }

        return Jpeg::encode(Bytes::bgrx8($witness->crop($planes)), $width, $height);
    }

    /** @return array{columns: int, rows: int, from: float, to: float, counts: list<int>} */
    public function waveform(FootageFile $footage, Recipe $recipe, int $number, View $view): array
    {
        $frame = $this->frames->frame($footage, $number, FrameCache::kept($footage->info, 180));
        $renderer = $this->renderers->of($this->shown($recipe, $view, null));
        $waveform = new Waveform($frame->format->width, min(self::WAVE_COLUMNS, $frame->format->width), self::WAVE_ROWS);
        foreach ($renderer->bands($frame, $number, $frame->format->rect()) as $planes) {
            $waveform->add($planes);
        }

        return ['columns' => $waveform->columns, 'rows' => $waveform->rows, 'from' => Waveform::FROM, 'to' => Waveform::TO, 'counts' => $waveform->counts()];
    }

    private function shown(Recipe $recipe, View $view, ?Area $area): Recipe
    {
        return match ($view) {
            View::Result, View::Matte, View::Tint => $recipe,
            View::Original => new Recipe($recipe->source),
            View::Base => new Recipe($recipe->source, $recipe->assets, $recipe->base),
            View::Without => new Recipe($recipe->source, $recipe->assets, $recipe->base, array_values(array_filter($recipe->areas, static fn(Area $a): bool => $a->id !== $area?->id)), $recipe->finish),
        };
    }

    /**
     * Bands with an area's matte shown as a light veil; without an area they stay as they are.
     *
     * @param iterable<Planes> $bands
     *
     * @return iterable<Planes>
     */
    private function tinted(iterable $bands, ?Area $area, FrameRenderer $renderer, Frame $frame, int $number): iterable
    {
        foreach ($bands as $planes) {
            if ($area !== null) {
                $matte = $renderer->matte($frame, $area, $number, $planes->rect)->v;
                foreach ($matte as $i => $m) {
                    $k = self::VEIL * $m;
                    $planes->r[$i] += ($k > 0.0 ? 1.0 - $planes->r[$i] : 0.0) * $k;
                    $planes->g[$i] += ($k > 0.0 ? 1.0 - $planes->g[$i] : 0.0) * $k;
                    $planes->b[$i] += ($k > 0.0 ? 1.0 - $planes->b[$i] : 0.0) * $k;
                }
            }
            yield $planes;
        }
    }

    private static function only(Recipe $recipe, Area $area): Recipe
    {
        return new Recipe($recipe->source, areas: [$area]);
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

    /** @param iterable<Planes> $bands */
    private static function joined(iterable $bands, Rect $rect): Planes
    {
        $r = $g = $b = [];
        foreach ($bands as $planes) {
            array_push($r, ...$planes->r);
            array_push($g, ...$planes->g);
            array_push($b, ...$planes->b);
        }

        return new Planes($rect, $r, $g, $b);
    }
}
