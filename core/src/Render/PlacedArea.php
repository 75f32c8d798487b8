<?php

declare(strict_types=1);

namespace Cossel\Core\Render;

use Cossel\Core\Outline\AreaMatte;
use Cossel\Core\Pick\PickMatte;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Side;
use Cossel\Core\Touch\Site;
use Cossel\Core\Touch\Weight;

/**
 * An area on one frame: its outline, its pick, and the touches that change something there.
 *
 * @internal
 */
final readonly class PlacedArea implements Stage
{
    private Rect $frame;
    private Rect $bounds;

    /** @param list<Act> $acts */
    public function __construct(public Area $area, private AreaMatte $outline, private ?PickMatte $pick, public array $acts, private Site $site)
    {
        $this->frame = $site->untreated->format->rect();
        $this->bounds = $outline->bounds();
    }

    /** Where its outline may be other than 0. */
    public function bounds(): Rect
    {
        return $this->bounds;
    }

    /** The pixels its touches can change. */
    public function reach(): Rect
    {
        foreach ($this->acts as $act) {
            if ($act->side === Side::Outside) {
                return $this->frame;
            }
        }

        return $this->bounds;
    }

    public function isPointwise(): bool
    {
        foreach ($this->acts as $act) {
            if ($act->sight->margin > 0 || $act->sight->area) {
                return false;
            }
        }

        return $this->pick === null || ($this->pick->margin($this->site->rows()) === 0 && !$this->pick->seesArea());
    }

    public function needs(Rect $rect): Rect
    {
        return $this->steps($rect)[0];
    }

    public function apply(Planes $planes, Rect $rect): void
    {
        [, $matteRect, $targets] = $this->steps($rect);
        $matte = $matteRect->isEmpty() ? null : $this->matte($planes, $matteRect);
        foreach ($this->acts as $i => $act) {
            $target = $targets[$i];
            if ($target->isEmpty()) {
                continue;
            }
            $own = ($matte ?? Grey::filled($target, 0.0))->window($target);
            $weight = $act->side === Side::Inside ? Weight::inside($own, $act->amount) : Weight::outside($own, $act->amount);
            $act->kind->apply($planes, $weight, $act->values, $act->sight->area && $matte !== null ? $this->site->withMatte($matte->window($this->bounds)) : $this->site);
        }
    }

    /**
     * The finished matte over a rectangle.
     *
     * @param Planes $planes the picture as it enters the area, over at least what {@see matteNeeds} says
     */
    public function matte(Planes $planes, Rect $rect): Grey
    {
        if ($this->pick === null) {
            return $this->outline->matte($rect);
        }
        $whole = $this->pick->seesArea() ? $this->outline->matte($this->bounds) : $this->outline->matte($rect);
        $picked = $this->pick->of($planes, $rect, $this->site, $whole)->v;
        $matte = $whole->window($rect);
        $v = $matte->v;
        foreach ($picked as $i => $k) {
            $v[$i] *= $k;
        }

        return new Grey($rect, $v);
    }

    /** Where the picture has to be right for the matte to be right over a rectangle. */
    public function matteNeeds(Rect $rect): Rect
    {
        if ($this->pick === null || $rect->isEmpty()) {
            return $rect;
        }
        $wide = $rect->grow($this->pick->margin($this->site->rows()))->intersect($this->frame);

        return $this->pick->seesArea() ? $wide->union($this->bounds) : $wide;
    }

    /**
     * What has to be right before, over which rectangle the matte is wanted, and where each touch has to act.
     *
     * @return array{Rect, Rect, list<Rect>}
     */
    private function steps(Rect $rect): array
    {
        $need = $rect;
        $matte = Rect::none();
        $targets = [];
        foreach (array_reverse($this->acts) as $act) {
            $target = $act->side === Side::Inside ? $need->intersect($this->bounds) : $need;
            $targets[] = $target;
            if ($target->isEmpty()) {
                continue;
            }
            $seen = $act->sight->area ? $target->union($this->bounds) : $target;
            $matte = $matte->union($seen->intersect($this->bounds));
            $need = $need->union($seen->grow($act->sight->margin)->intersect($this->frame));
        }

        return [$need->union($this->matteNeeds($matte)), $matte, array_reverse($targets)];
    }
}
