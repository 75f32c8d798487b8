<?php

declare(strict_types=1);

namespace Cossel\Core\Render;

use Cossel\Core\Motion\Motions;
use Cossel\Core\Outline\AreaExtent;
use Cossel\Core\Outline\AreaMattes;
use Cossel\Core\Pick\PickMatte;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\OnFrame;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\Touch;
use Cossel\Core\Touch\Assets;
use Cossel\Core\Touch\NoAssets;
use Cossel\Core\Touch\Site;

/**
 * The one way from an untreated frame to a treated one: base, area by area, finish. The bench, a delivery and the
 * command line all come through here, at whatever size the frame has. Only what a touch can change is computed, in
 * bands of rows, so that memory does not grow with the frame; see {@see Passage}.
 */
final class FrameRenderer
{
    /** @var array{Frame, int, list<Stage>}|null of the frame asked about last: with what its areas were measured to be */
    private ?array $last = null;

    /** @param int $pixels that an area is shown to its touches of at once, at the most */
    public function __construct(
        private readonly Recipe $recipe,
        private readonly Motions $motions,
        private readonly Assets $assets = new NoAssets(),
        private readonly int $pixels = Passage::PIXELS,
    ) {}

    /**
     * The rectangles of a frame that the recipe may change, apart from each other.
     *
     * @return list<Rect>
     */
    public function touched(Frame $frame, int $number): array
    {
        return $this->passage($frame, $number)->touched();
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
        return $this->passage($frame, $number)->bands($rect);
    }

    /** The bytes of a whole treated frame; what no touch reaches is copied as it is. */
    public function frame(Frame $frame, int $number): string
    {
        $passage = $this->passage($frame, $number);

        return $frame->patched((static function () use ($passage): \Generator {
            foreach ($passage->touched() as $rect) {
                yield from $passage->bands($rect);
            }
        })());
    }

    /** Seconds that a rectangle of a treated frame takes, about, on a machine of 2026; for saying so before it is begun. */
    public function seconds(Frame $frame, int $number, Rect $rect): float
    {
        return $this->passage($frame, $number)->price($rect) * 1e-9;
    }

    /** Where this treatment makes another picture of a frame than another of the same shot: outside not one code value differs. */
    public function changed(self $other, Frame $frame, int $number): Rect
    {
        return Change::between($this->stages($frame, $number), $other->stages($frame, $number));
    }

    /** Where the finished mattes of an area differ between them. */
    public function matteChanged(self $other, Frame $frame, string $area, int $number): Rect
    {
        $until = static fn(self $of): array => $of->stages($frame, $number, $of->recipe->area($area));
        $matte = static fn(self $of): AreaStage => $of->stage($of->recipe->area($area), [], $frame, $number, $of->mattes($frame, $number));

        return $matte($this)->matteChanged($matte($other), Change::between($until($this), $until($other)));
    }

    /** The finished matte of an area over a rectangle: outline x pick; live span, strength and switches left aside. */
    public function matte(Frame $frame, Area $area, int $number, Rect $rect): Grey
    {
        $stage = $this->stage($area, [], $frame, $number, $this->mattes($frame, $number));
        if ($area->pick === null) {
            return $stage->matte(Planes::filled(Rect::none(), 0.0, 0.0, 0.0), $rect);
        }

        $before = $this->passage($frame, $number, $area)->over(...);
        $stage->survey($before, $this->pixels);

        return $stage->matte($before($stage->matteNeeds($rect)), $rect);
    }

    /** The picture as it enters an area, over a rectangle. */
    public function before(Frame $frame, Area $area, int $number, Rect $rect): Planes
    {
        return $this->passage($frame, $number, $area)->over($rect);
    }

    /**
     * The treatment of a whole frame, area by area: what each of those that change something there is given, what it makes
     * of it and its finished matte, over its outline and a margin of so many pixels. The treated frame comes last.
     *
     * @return \Generator<int, array{area: Area, matte: Grey, before: Planes, after: Planes}, void, Planes>
     */
    public function steps(Frame $frame, int $number, int $margin): \Generator
    {
        $whole = $frame->format->rect();
        $planes = $frame->window($whole);
        foreach ($this->stages($frame, $number) as $stage) {
            if (!$stage instanceof AreaStage || $stage->bounds()->isEmpty()) {
                $stage->apply($planes, $whole);
                continue;
            }
            $rect = $stage->bounds()->grow($margin)->intersect($whole);
            $matte = $stage->matte($planes, $rect);
            $before = $planes->window($rect);
            $stage->apply($planes, $whole, $matte);
            yield ['area' => $stage->area, 'matte' => $matte, 'before' => $before, 'after' => $planes->window($rect)];
        }

        return $planes;
    }

    private function passage(Frame $frame, int $number, ?Area $until = null): Passage
    {
        return new Passage($this->stages($frame, $number, $until), $frame, $this->pixels);
    }

    /**
     * What changes something on a frame, in order.
     *
     * @param Area|null $until the area before which it ends; null for all
     *
     * @return list<Stage>
     */
    private function stages(Frame $frame, int $number, ?Area $until = null): array
    {
        if ($until === null && $this->last !== null && $this->last[0] === $frame && $this->last[1] === $number) {
            return $this->last[2];
        }
        $site = new Site($number, $frame, $this->assets);
        $everywhere = fn(array $touches): array => array_map(
            static fn(Act $act): Stage => new FrameStage($act, $frame->format->rect()),
            Act::of($touches, $this->recipe->assets, $site),
        );
        $mattes = $this->mattes($frame, $number);
        $stages = $everywhere($this->recipe->base);
        foreach ($this->recipe->areas as $area) {
            if ($area->id === $until?->id) {
                return $stages;
            }
            $strength = $area->on ? $area->live->weight($number) * $area->strength->at($number) : 0.0;
            $touches = $strength > 0.0 ? array_filter($this->recipe->touches($area), static fn(Touch $touch): bool => $touch->on) : [];
            $stage = $touches === [] ? null : $this->stage($area, array_values($touches), $frame, $number, $mattes, $strength);
            if ($stage !== null && $stage->acts !== []) {
                $stages[] = $stage;
            }
        }

        $stages = [...$stages, ...$everywhere($this->recipe->finish)];
        $this->last = [$frame, $number, $stages];

        return $stages;
    }

    private function mattes(Frame $frame, int $number): AreaMattes
    {
        return new AreaMattes($number, $this->motions, $frame->format->rect(), $frame);
    }

    /**
     * An area where it is on a frame.
     *
     * @param list<Touch> $touches
     */
    private function stage(Area $area, array $touches, Frame $frame, int $number, AreaMattes $mattes, float $strength = 1.0): AreaStage
    {
        $inside = $area->blinkGuard->on
            ? $strength * $area->blinkGuard->weight($number, $this->motions->openness($area, $number))
            : $strength;
        $outline = $mattes->of($area);
        $extent = AreaExtent::of($area, $number, $this->motions);
        $surface = AreaExtent::surface($area, $number, $this->motions);
        $site = new Site($number, $frame, $this->assets, $extent, $outline->bounds(), $surface);

        return new AreaStage(
            $area,
            fn(): string => OnFrame::place($this->recipe, $area, $number),
            $outline,
            $area->pick === null ? null : new PickMatte($area->pick),
            Act::of($touches, $this->recipe->assets, $site, $inside, $strength),
            $site,
        );
    }
}
