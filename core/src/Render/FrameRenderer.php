<?php

declare(strict_types=1);

namespace Cossel\Core\Render;

use Cossel\Core\Colour\Transfer;
use Cossel\Core\Motion\Motions;
use Cossel\Core\Outline\AreaMatte;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\Side;
use Cossel\Core\Recipe\Touch;
use Cossel\Core\Touch\Weight;

/**
 * The one way from an untreated frame to a treated one: base, area by area, finish. The bench, a delivery and the
 * command line all come through here, at whatever size the frame has.
 *
 * Only what a touch can change is computed, in bands of rows, so that neither time nor memory grows with the frame.
 */
final class FrameRenderer
{
    /** Rows computed at a time. */
    private const BAND = 48;

    public function __construct(private readonly Recipe $recipe, private readonly Motions $motions) {}

    /**
     * The rectangles of a frame that the recipe may change, apart from each other.
     *
     * @param Rect $frame the whole picture in pixels
     *
     * @return list<Rect>
     */
    public function touched(int $number, Rect $frame): array
    {
        if (self::active($this->recipe->base, $number) !== [] || self::active($this->recipe->finish, $number) !== []) {
            return [$frame];
        }
        $rects = [];
        foreach ($this->placed($number, $frame) as $placed) {
            $rects[] = $placed->reach($frame);
        }

        return Rect::apart($rects);
    }

    /**
     * The treated picture over a rectangle, band by band from top to bottom.
     *
     * @param Rect $rect inside the frame
     *
     * @return \Generator<int, Planes>
     */
    public function bands(Frame $frame, int $number, Rect $rect): \Generator
    {
        $base = self::active($this->recipe->base, $number);
        $areas = $this->placed($number, $frame->format->rect());
        $finish = self::active($this->recipe->finish, $number);
        foreach ($rect->bands(self::BAND) as $band) {
            $planes = $frame->window($band);
            self::everywhere($planes, $base, $number, $frame->format->transfer);
            foreach ($areas as $area) {
                self::area($planes, $area, $number, $frame->format->transfer);
            }
            self::everywhere($planes, $finish, $number, $frame->format->transfer);
            yield $planes;
        }
    }

    /** The bytes of a whole treated frame; what no touch reaches is copied as it is. */
    public function frame(Frame $frame, int $number): string
    {
        return $frame->patched($this->patches($frame, $number));
    }

    /** The finished matte of an area's outline over a rectangle, live span, strength and switches left aside. */
    public function matte(Area $area, int $number, Rect $frame, Rect $rect): Grey
    {
        return AreaMatte::on($area, $number, $this->motions, $frame)->matte($rect);
    }

    /** @return \Generator<int, Planes> */
    private function patches(Frame $frame, int $number): \Generator
    {
        foreach ($this->touched($number, $frame->format->rect()) as $rect) {
            yield from $this->bands($frame, $number, $rect);
        }
    }

    /**
     * The areas that do something on a frame, where they are on it.
     *
     * @return list<PlacedArea>
     */
    private function placed(int $number, Rect $frame): array
    {
        $placed = [];
        foreach ($this->recipe->areas as $area) {
            $strength = $area->on ? $area->live->weight($number) * $area->strength->at($number) : 0.0;
            $inside = $strength > 0.0 && $area->blinkGuard->on ? $strength * $area->blinkGuard->weight($number, $this->motions->openness($area, $number)) : $strength;
            $touches = $strength > 0.0 ? self::active($area->touches, $number) : [];
            if ($inside <= 0.0) {
                $touches = array_values(array_filter($touches, static fn(Touch $touch): bool => $touch->side === Side::Outside));
            }
            if ($touches !== []) {
                $placed[] = new PlacedArea(AreaMatte::on($area, $number, $this->motions, $frame), $touches, $inside, $strength);
            }
        }

        return $placed;
    }

    /**
     * The touches that change something on a frame.
     *
     * @param list<Touch> $touches
     *
     * @return list<Touch>
     */
    private static function active(array $touches, int $number): array
    {
        return array_values(array_filter(
            $touches,
            static fn(Touch $touch): bool => $touch->on && $touch->amount->at($number) > 0.0 && !$touch->kind->isNeutral($touch->values($number)),
        ));
    }

    /** @param list<Touch> $touches */
    private static function everywhere(Planes $planes, array $touches, int $number, Transfer $transfer): void
    {
        foreach ($touches as $touch) {
            $touch->kind->apply($planes, Weight::everywhere($planes->rect, $touch->amount->at($number)), $touch->values($number), $transfer);
        }
    }

    private static function area(Planes $planes, PlacedArea $area, int $number, Transfer $transfer): void
    {
        $inside = $area->matte->bounds()->intersect($planes->rect);
        $matte = $inside->isEmpty() ? null : $area->matte->matte($inside);
        $outer = null;
        foreach ($area->touches as $touch) {
            $amount = $area->strength($touch->side) * $touch->amount->at($number);
            if ($touch->side === Side::Outside) {
                $outer ??= ($matte ?? Grey::filled($planes->rect, 0.0))->window($planes->rect);
                $weight = Weight::outside($outer, $amount);
            } elseif ($matte !== null) {
                $weight = Weight::inside($matte, $amount);
            } else {
                continue;
            }
            $touch->kind->apply($planes, $weight, $touch->values($number), $transfer);
        }
    }
}
