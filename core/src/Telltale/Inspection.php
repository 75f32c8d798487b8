<?php

declare(strict_types=1);

namespace Cossel\Core\Telltale;

use Cossel\Core\Motion\Motions;
use Cossel\Core\Outline\AreaExtent;
use Cossel\Core\Outline\AreaMatte;
use Cossel\Core\Picture\Frame;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Recipe\Area;
use Cossel\Core\Recipe\Recipe;
use Cossel\Core\Recipe\Side;
use Cossel\Core\Recipe\Touch;
use Cossel\Core\Render\FrameRenderer;
use Cossel\Core\Touch\Assets;
use Cossel\Core\Touch\NoAssets;

/**
 * Looks a treated shot over, frame by frame: the frame is rendered once, and every tell-tale keeps what it needs of each
 * area it concerns. {@see Findings} makes measures of the looks of all frames.
 */
final class Inspection
{
    /** Rows of the frames that most tell-tales look at; a few more do no harm. */
    public const ROWS = 270;
    /** How many frames lie between those that fine ones look at. */
    public const FINE_EVERY = 12;
    /** What is seen round an area, and half the side of the piece that fine ones see, as shares of the picture's height. */
    private const MARGIN = 1 / 60;
    private const PIECE = 1 / 9;

    private readonly FrameRenderer $renderer;

    public function __construct(private readonly Recipe $recipe, private readonly Motions $motions, Assets $assets = new NoAssets())
    {
        $this->renderer = new FrameRenderer($recipe, $motions, $assets);
    }

    /**
     * @param Frame $frame of about ROWS rows
     *
     * @return array<string, array<string, list<float>>> looks by tell-tale and area; '' is the whole frame
     */
    public function coarse(Frame $frame, int $number): array
    {
        return $this->looks($this->areas($frame, $number), false);
    }

    /**
     * @param Frame $frame of its own size
     *
     * @return array<string, array<string, list<float>>> looks by tell-tale and area
     */
    public function fine(Frame $frame, int $number): array
    {
        return $this->looks($this->pieces($frame, $number), true);
    }

    /**
     * @param iterable<Seen> $all
     *
     * @return array<string, array<string, list<float>>>
     */
    private function looks(iterable $all, bool $fine): array
    {
        $looks = [];
        foreach ($all as $seen) {
            foreach (Telltales::all() as $telltale) {
                $look = $telltale->isFine === $fine && $telltale->concerns($this->recipe, $seen->area) ? $telltale->look($seen) : null;
                if ($look !== null) {
                    $looks[$telltale->name][$seen->area->id ?? ''] = $look;
                }
            }
        }

        return $looks;
    }

    /** @return iterable<Seen> the areas on a frame, treated or not, and the frame itself */
    private function areas(Frame $frame, int $number): iterable
    {
        $steps = $this->renderer->steps($frame, $number, (int) ceil(self::MARGIN * $frame->format->height));
        $treated = [];
        foreach ($steps as $step) {
            $treated[$step['area']->id] = $step;
        }
        $result = $steps->getReturn();
        $whole = $frame->format->rect();
        foreach ($this->recipe->areas as $area) {
            $step = $treated[$area->id] ?? null;
            $matte = $step['matte'] ?? null;
            if ($matte === null) {
                $rect = $this->bounds($area, $frame, $number);
                if ($rect->isEmpty()) {
                    continue;
                }
                $matte = $this->renderer->matte($frame, $area, $number, $rect);
            }
            yield new Seen(
                $area,
                $frame,
                $number,
                $matte,
                $step['before'] ?? null,
                $step['after'] ?? null,
                $result,
                $this->touches($area),
                AreaExtent::of($area, $number, $this->motions),
                $this->motions->openness($area, $number),
                AreaExtent::surface($area, $number, $this->motions),
            );
        }
        yield new Seen(null, $frame, $number, Grey::filled($whole, 1.0), null, null, $result);
    }

    /** @return iterable<Seen> a piece out of the middle of each area that is treated there, on its inside */
    private function pieces(Frame $frame, int $number): iterable
    {
        $half = (int) ceil(self::PIECE * $frame->format->height);
        $pieces = [];
        foreach ($this->recipe->areas as $area) {
            $bounds = $this->bounds($area, $frame, $number);
            $piece = Rect::of(
                $bounds->x + intdiv($bounds->width, 2) - $half,
                $bounds->y + intdiv($bounds->height, 2) - $half,
                2 * $half,
                2 * $half,
            )->intersect($bounds);
            $isTreated = array_filter($this->touches($area), static fn(Touch $touch): bool => $touch->side === Side::Inside) !== [];
            if (!$piece->isEmpty() && $isTreated) {
                $pieces[] = [$area, $piece];
            }
        }
        if ($pieces === []) {
            return;
        }
        // All at once: an area that looks at the whole of itself is then computed once.
        $around = array_reduce($pieces, static fn(Rect $sum, array $piece): Rect => $sum->union($piece[1]), Rect::none());
        $result = Planes::joined($around, $this->renderer->bands($frame, $number, $around));
        foreach ($pieces as [$area, $piece]) {
            [$before, $after] = [$frame->window($piece), $result->window($piece)];
            if ($before->r !== $after->r || $before->g !== $after->g || $before->b !== $after->b) {
                yield new Seen(
                    $area,
                    $frame,
                    $number,
                    $this->renderer->matte($frame, $area, $number, $piece),
                    $before,
                    $after,
                    $after,
                    $this->touches($area),
                );
            }
        }
    }

    private function bounds(Area $area, Frame $frame, int $number): Rect
    {
        return AreaMatte::on($area, $number, $this->motions, $frame->format->rect())->bounds();
    }

    /** @return list<Touch> what an area does, where it is switched on */
    private function touches(Area $area): array
    {
        return $area->on ? array_values(array_filter($this->recipe->touches($area), static fn(Touch $touch): bool => $touch->on)) : [];
    }
}
