<?php

declare(strict_types=1);

namespace Cossel\Core\Render;

use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;

/**
 * The way of one frame through its stages. From the last stage to the first each says what it has to be given to be right
 * over a rectangle; then they act in order on one window that holds all of that.
 *
 * What a touch measures of its area is measured once, however many pieces the frame is computed in: in passing, where the
 * area fits into a window, else beforehand, in bands.
 *
 * @internal
 */
final readonly class Passage
{
    /** Rows computed at a time where each pixel is computed from itself alone. */
    private const BAND = 48;
    /** Pixels that an area is shown to its touches of at once; beyond, in bands. */
    public const PIXELS = 1_000_000;
    /** Pixels computed at a time where more is looked at than the pixel: what bands share is computed twice. */
    private const AT_ONCE = 600_000;

    /**
     * @param list<Stage> $stages
     * @param int         $pixels shown to an area's touches at once, at the most
     */
    public function __construct(private array $stages, private Frame $frame, private int $pixels = self::PIXELS) {}

    /** @return list<Rect> what it may change, apart from each other */
    public function touched(): array
    {
        $reaches = $sparing = [];
        foreach ($this->stages as $stage) {
            $spares = $stage instanceof FrameStage ? $stage->sparing() : null;
            if ($spares === null) {
                $reaches[] = $stage->reach();
            } else {
                $sparing[] = $spares;
            }
        }
        $reaches = Rect::apart($reaches);
        if (count($reaches) === 1 && $reaches[0]->equals($this->frame->format->rect())) {
            return $reaches;
        }
        // Outside of those the frame is still untreated when it comes to what spares most of it.
        foreach ($sparing as $spares) {
            $reaches = Rect::apart([...$reaches, ...$spares->doubtful($this->frame)]);
        }

        return $reaches;
    }

    /**
     * The treated picture over a rectangle, band by band from top to bottom.
     *
     * @param Rect $rect inside the frame
     *
     * @return \Generator<int, Planes>
     */
    public function bands(Rect $rect): \Generator
    {
        $this->survey($rect);
        foreach ($rect->bands($this->rows($rect)) as $band) {
            yield $this->through($band);
        }
    }

    /** Nanoseconds that a rectangle takes, about. */
    public function price(Rect $rect): float
    {
        $price = 0.0;
        $needs = $this->needs($rect);
        foreach ($this->stages as $i => $stage) {
            if (!$stage instanceof AreaStage || $stage->reach()->intersect($needs[$i + 1])->isEmpty()) {
                continue;
            }
            $sees = $stage->surveyed($this->pixels);
            if (!$sees->isEmpty()) {
                $before = new self(array_slice($this->stages, 0, $i), $this->frame, $this->pixels);
                $price += $before->priceOfBands($sees) + $stage->price($sees);
            }
        }

        return $price + $this->priceOfBands($rect);
    }

    private function priceOfBands(Rect $rect): float
    {
        $price = 0.0;
        foreach ($rect->bands($this->rows($rect)) as $band) {
            $needs = $this->needs($band);
            $price += $needs[0]->count() * Prices::WINDOW;
            foreach ($this->stages as $i => $stage) {
                $price += $stage->price($needs[$i + 1]);
            }
        }

        return $price;
    }

    /** How high the bands of a rectangle are. */
    private function rows(Rect $rect): int
    {
        foreach ($rect->bands(self::BAND) as $band) {
            if (!$this->needs($band)[0]->equals($band)) {
                return max(self::BAND, intdiv(min($this->pixels, self::AT_ONCE), max(1, $rect->width)));
            }
        }

        return self::BAND;
    }

    /** The same at once. */
    public function over(Rect $rect): Planes
    {
        $this->survey($rect);

        return $this->through($rect);
    }

    /** Shows areas to their touches that are too large to be shown in passing. */
    private function survey(Rect $rect): void
    {
        $needs = $this->needs($rect);
        foreach ($this->stages as $i => $stage) {
            if ($stage instanceof AreaStage && !$stage->reach()->intersect($needs[$i + 1])->isEmpty()) {
                $before = new self(array_slice($this->stages, 0, $i), $this->frame, $this->pixels);
                $stage->survey($before->through(...), $this->pixels);
            }
        }
    }

    private function through(Rect $rect): Planes
    {
        $needs = $this->needs($rect);
        $planes = $this->frame->window($needs[0]);
        foreach ($this->stages as $i => $stage) {
            $stage->apply($planes, $needs[$i + 1]);
        }

        return $planes->window($rect);
    }

    /** @return non-empty-list<Rect> where the picture has to be right before each stage, and after the last */
    private function needs(Rect $rect): array
    {
        $needs = [$rect];
        foreach (array_reverse($this->stages) as $stage) {
            array_unshift($needs, $stage->needs($needs[0]));
        }

        return $needs;
    }
}
