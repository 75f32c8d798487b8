<?php

declare(strict_types=1);

namespace Cossel\Core\Render;

use Cossel\Core\Outline\AreaMatte;
use Cossel\Core\Pick\PickMatte;
use Cossel\Core\Picture\AreaPicture;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Picture\Weight;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Side;
use Cossel\Core\Touch\Site;

/**
 * An area on one frame: its outline, its pick, and the touches that change something there.
 *
 * @internal
 */
final class AreaStage implements Stage
{
    private readonly Rect $frame;
    private readonly Rect $bounds;
    /** Lightness of the area, once it was measured. */
    private ?float $light = null;

    private ?string $place = null;

    /**
     * @param \Closure(): string $placed a digest of what its matte comes from; only asked for where treatments are compared
     * @param list<Act>          $acts
     */
    public function __construct(
        public readonly Area $area,
        private readonly \Closure $placed,
        private readonly AreaMatte $outline,
        private readonly ?PickMatte $pick,
        public readonly array $acts,
        private readonly Site $site,
    ) {
        $this->frame = $site->untreated->format->rect();
        $this->bounds = $site->bounds();
    }

    private function place(): string
    {
        return $this->place ??= ($this->placed)();
    }

    /** Where its outline may be other than 0. */
    public function bounds(): Rect
    {
        return $this->bounds;
    }

    public function reach(): Rect
    {
        foreach ($this->acts as $act) {
            if ($act->side === Side::Outside) {
                return $this->frame;
            }
        }

        return $this->bounds;
    }

    public function needs(Rect $rect): Rect
    {
        return $this->steps($rect)[0];
    }

    public function id(): string
    {
        return "area {$this->area->id}";
    }

    public function changed(Stage $other, Rect $changed): Rect
    {
        if (!$other instanceof self) {
            return $this->frame;
        }
        $matte = $this->matteChanged($other, $changed);
        foreach (Change::pairs($this->acts, $other->acts) as [$own, $others]) {
            $same = $own !== null && $own->as === $others?->as;
            foreach ([[$this, $own], [$other, $others]] as [$stage, $act]) {
                if ($act === null) {
                    continue;
                }
                $target = $act->side === Side::Inside ? $stage->bounds : $this->frame;
                $same = $same && (!$act->placed || $this->place() === $other->place());
                $changed = $same ? $act->spread($changed->union($matte->intersect($target)), $target) : $changed->union($target);
            }
        }

        return $changed;
    }

    /**
     * Where the finished matte may differ from that of the same area in another treatment.
     *
     * @param Rect $changed where the picture that enters them may differ
     */
    public function matteChanged(self $other, Rect $changed): Rect
    {
        if ($this->place() !== $other->place()) {
            return $this->bounds->union($other->bounds);
        }
        if ($this->pick === null || $changed->isEmpty()) {
            return Rect::none();
        }

        return $this->pick->seesArea() && !$changed->intersect($this->bounds)->isEmpty()
            ? $this->bounds
            : $changed->grow($this->pick->margin($this->site->rows()))->intersect($this->bounds);
    }

    public function price(Rect $rect): float
    {
        [, $matteRect, $targets] = $this->steps($rect);
        $price = $matteRect->intersect($this->bounds)->count() * $this->outline->price();
        foreach ($this->acts as $i => $act) {
            $price += $act->works($targets[$i])->intersect($this->frame)->count() * $act->price;
        }

        return $price;
    }

    /** What has to be shown more of the area than so many pixels at once, all of it together. */
    public function surveyed(int $most): Rect
    {
        $sees = $this->pick?->seesArea() === true && $this->bounds->count() > $most ? $this->bounds : Rect::none();
        foreach ($this->acts as $act) {
            $rect = ($act->survey()?->sees() ?? Rect::none())->intersect($this->frame);
            $sees = $rect->count() > $most ? $sees->union($rect) : $sees;
        }

        return $sees;
    }

    /** @param Grey|null $known the finished matte, over all of its bounds at least, where it is known already */
    public function apply(Planes $planes, Rect $rect, ?Grey $known = null): void
    {
        [, $matteRect, $targets] = $this->steps($rect);
        $matte = $matteRect->isEmpty() ? null : $known ?? $this->matte($planes, $matteRect);
        foreach ($this->acts as $i => $act) {
            $target = $targets[$i];
            if ($target->isEmpty()) {
                continue;
            }
            $survey = $act->survey();
            if ($survey !== null) {
                $act->show(AreaPicture::of(
                    $survey->sees()->intersect($this->frame),
                    $survey->block(),
                    $planes,
                    $matte ?? Grey::filled(Rect::none(), 0.0),
                ));
            }
            $own = ($matte ?? Grey::filled($target, 0.0))->window($target);
            $act->apply($planes, $act->side === Side::Inside ? Weight::inside($own, $act->amount) : Weight::outside($own, $act->amount));
        }
    }

    /**
     * Shows the area, band by band, to what would have to be shown more than so many pixels of it at once.
     *
     * @param \Closure(Rect): Planes $before the picture as it enters the area, over a rectangle
     */
    public function survey(\Closure $before, int $most): void
    {
        if ($this->light === null && $this->pick?->seesArea() === true && $this->bounds->count() > $most) {
            $this->light = PickMatte::light($this->gathered(
                $this->bounds,
                PickMatte::block($this->bounds),
                $most,
                fn(Rect $band): array => [$before($band), $this->outline->matte($band)],
            ), $this->site->transfer());
        }
        foreach ($this->acts as $i => $act) {
            $rect = ($act->survey()?->sees() ?? Rect::none())->intersect($this->frame);
            if ($act->survey() === null || $rect->count() <= $most) {
                continue;
            }
            $until = new self($this->area, $this->placed, $this->outline, $this->pick, array_slice($this->acts, 0, $i), $this->site);
            $until->light = $this->light;
            $act->show($this->gathered($rect, $act->survey()->block(), $most, function (Rect $band) use ($before, $until): array {
                $inside = $band->intersect($this->bounds);
                $planes = $before($until->needs($band)->union($this->matteNeeds($inside)));
                $matte = $this->matte($planes, $inside)->window($band);
                $until->apply($planes, $band);

                return [$planes->window($band), $matte];
            }));
        }
    }

    /**
     * The finished matte over a rectangle.
     *
     * @param Planes $planes the picture as it enters the area, over at least what {@see matteNeeds} says
     */
    public function matte(Planes $planes, Rect $rect): Grey
    {
        $matte = $this->outline->matte($rect);
        if ($this->pick === null || $rect->isEmpty()) {
            return $matte;
        }
        if ($this->light === null && $this->pick->seesArea()) {
            $this->light = PickMatte::light(
                AreaPicture::of($this->bounds, PickMatte::block($this->bounds), $planes, $this->outline->matte($this->bounds)),
                $this->site->transfer(),
            );
        }
        foreach ($this->pick->of($planes, $rect, $this->site->rows(), $this->site->transfer(), $this->light)->v as $i => $k) {
            $matte->v[$i] *= $k;
        }

        return $matte;
    }

    /** Where the picture has to be right for the matte to be right over a rectangle. */
    public function matteNeeds(Rect $rect): Rect
    {
        if ($this->pick === null || $rect->isEmpty()) {
            return $rect;
        }
        $wide = $rect->grow($this->pick->margin($this->site->rows()))->intersect($this->frame);

        return $this->light === null && $this->pick->seesArea() ? $wide->union($this->bounds) : $wide;
    }

    /**
     * @param \Closure(Rect): array{Planes, Grey} $band
     */
    private function gathered(Rect $rect, int $side, int $most, \Closure $band): AreaPicture
    {
        $rows = max(1, intdiv($most, $rect->width * $side)) * $side;

        return AreaPicture::gathered($rect, $side, (static function () use ($rect, $rows, $band): \Generator {
            foreach ($rect->bands($rows) as $piece) {
                yield $band($piece);
            }
        })());
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
            $matte = $matte->union(($act->survey() === null ? $target : $target->union($this->bounds))->intersect($this->bounds));
            $need = $need->union($act->needs($target)->intersect($this->frame));
        }

        return [$need->union($this->matteNeeds($matte)), $matte, array_reverse($targets)];
    }
}
