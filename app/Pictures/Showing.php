<?php

declare(strict_types=1);

namespace App\Pictures;

use App\Footage\FootageFile;
use App\Footage\FrameCache;
use Cossel\Core\Picture\Bytes;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Render\FrameRenderer;

/** A shot shown in one way, any of its frames: whole, or only where it differs from what stands already. */
final readonly class Showing
{
    /** How strongly the tint veils the picture. */
    private const VEIL = 0.45;
    /** Pixels of a matte that are held at once. */
    private const AT_ONCE = 4_000_000;
    /** What a picked area stands on. */
    private const GREY = 0.42;
    /** The share of a picture from which on a patch gives way to a new whole. */
    private const MOST = 0.6;

    /**
     * @param Area|null                              $area     what the view is about
     * @param array{float, float, float, float}|null $window   left, top, right, bottom in picture heights; null for all
     * @param int                                    $gain     of a difference
     * @param FrameRenderer|null                     $standing of what stands already, in the same view
     */
    public function __construct(
        private FrameCache $frames,
        private FootageFile $footage,
        private FrameRenderer $renderer,
        private View $view,
        private ?Area $area,
        private int $height,
        private ?array $window = null,
        private int $gain = 1,
        private ?FrameRenderer $standing = null,
    ) {}

    public function picture(int $number): Picture
    {
        $frame = $this->frames->frame($this->footage, $number, FrameCache::kept($this->footage->info, $this->height));
        $whole = $frame->format->rect();
        $rect = $this->standing === null ? $this->wanted($whole) : $this->patch($this->standing, $frame, $number);
        if ($rect->isEmpty()) {
            return new Picture('', $rect, $whole);
        }
        TooCostly::check($this->renderer, $frame, $number, $rect, 'picture');
        $bytes = '';
        if ($this->view === View::Matte && $this->area !== null) {
            $bytes = $this->matte($this->area, $frame, $number, $rect);
        } else {
            foreach ($this->bands($frame, $number, $rect) as $planes) {
                $bytes .= Bytes::bgrx8($planes);
            }
        }

        return new Picture(Jpeg::encode($bytes, $rect->width, $rect->height), $rect, $whole);
    }

    /**
     * The view over a rectangle, band by band: the picture, or with an area's matte shown as a light veil, or as the area alone over
     * grey; or with what was changed, around mid grey.
     *
     * @return iterable<Planes>
     */
    public function bands(Frame $frame, int $number, Rect $rect): iterable
    {
        foreach ($this->renderer->bands($frame, $number, $rect) as $planes) {
            if ($this->view === View::Difference) {
                $before = $frame->window($planes->rect);
                foreach ($before->r as $i => $r) {
                    $planes->r[$i] = 0.5 + $this->gain * ($planes->r[$i] - $r);
                    $planes->g[$i] = 0.5 + $this->gain * ($planes->g[$i] - $before->g[$i]);
                    $planes->b[$i] = 0.5 + $this->gain * ($planes->b[$i] - $before->b[$i]);
                }
            }
            if ($this->area !== null && ($this->view === View::Tint || $this->view === View::Picked)) {
                [$level, $least, $most] = $this->view === View::Tint ? [1.0, 0.0, self::VEIL] : [self::GREY, 1.0, -1.0];
                foreach ($this->renderer->matte($frame, $this->area, $number, $planes->rect)->v as $i => $m) {
                    $k = $least + $most * $m;
                    $planes->r[$i] += ($level - $planes->r[$i]) * $k;
                    $planes->g[$i] += ($level - $planes->g[$i]) * $k;
                    $planes->b[$i] += ($level - $planes->b[$i]) * $k;
                }
            }
            yield $planes;
        }
    }

    private function matte(Area $area, Frame $frame, int $number, Rect $rect): string
    {
        $rows = $rect->count() > self::AT_ONCE ? intdiv(self::AT_ONCE, $rect->width) : $rect->height;

        return implode('', array_map(fn(Rect $band): string => Bytes::greyBgrx8($this->renderer->matte($frame, $area, $number, $band)), $rect->bands($rows)));
    }

    /** The part of the picture that is asked for; never nothing at all. */
    private function wanted(Rect $whole): Rect
    {
        if ($this->window === null) {
            return $whole;
        }
        $h = $whole->height;
        $rect = Rect::around($this->window[0] * $h, $this->window[1] * $h, $this->window[2] * $h, $this->window[3] * $h)->intersect($whole);

        return $rect->isEmpty() ? Rect::of(0, 0, 1, 1) : $rect;
    }

    /** Where it differs from what stands, within what is asked for; all of that, where it differs nearly everywhere. */
    private function patch(FrameRenderer $standing, Frame $frame, int $number): Rect
    {
        $wanted = $this->wanted($frame->format->rect());
        $changed = $this->view === View::Matte ? Rect::none() : $this->renderer->changed($standing, $frame, $number);
        if ($this->area !== null && $this->view->showsMatte()) {
            $changed = $changed->union($this->renderer->matteChanged($standing, $frame, $this->area->id, $number));
        }
        $rect = $changed->intersect($wanted);

        return $rect->count() > self::MOST * $wanted->count() ? $wanted : $rect;
    }
}
