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
    /** What is seen round an area, and the side of the pieces that fine ones see, as shares of the picture's height. */
    private const MARGIN = 1 / 60;
    private const PIECE = 1 / 9;
    private const PIECES = 5;
    /** Pixels that their side has at the least. */
    private const LEAST = 20;

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
                    // Of several pieces the worst.
                    $id = $seen->area->id ?? '';
                    $looks[$telltale->name][$id] = max($looks[$telltale->name][$id] ?? $look, $look);
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

    /** @return iterable<Seen> pieces of each area that is treated there, on its inside; other ones each time, so that all is seen */
    private function pieces(Frame $frame, int $number): iterable
    {
        foreach ($this->recipe->areas as $area) {
            $isTreated = array_filter($this->touches($area), static fn(Touch $touch): bool => $touch->side === Side::Inside) !== [];
            foreach ($isTreated ? $this->places($this->bounds($area, $frame, $number), $frame, $number) : [] as $piece) {
                $result = Planes::joined($piece, $this->renderer->bands($frame, $number, $piece));
                $before = $frame->window($piece);
                if ($before->r !== $result->r || $before->g !== $result->g || $before->b !== $result->b) {
                    $matte = $this->renderer->matte($frame, $area, $number, $piece);
                    yield new Seen($area, $frame, $number, $matte, $before, $result, $result, $this->touches($area));
                }
            }
        }
    }

    /**
     * Squares inside a rectangle: one in its middle, the others spread evenly over it and over the frames (J. H. Halton, Numer. Math. 2,
     * 1960).
     *
     * @return list<Rect>
     */
    private function places(Rect $bounds, Frame $frame, int $number): array
    {
        $side = max(self::LEAST, (int) ceil(self::PIECE * $frame->format->height));
        $all = [];
        for ($k = 0; $k < ($bounds->isEmpty() ? 0 : self::PIECES); ++$k) {
            $turn = 1 + intdiv($number, self::FINE_EVERY) * (self::PIECES - 1) + $k;
            [$u, $v] = $k === 0 ? [0.5, 0.5] : [self::halton($turn, 2), self::halton($turn, 3)];
            $left = $bounds->x + (int) ($u * max(0, $bounds->width - $side));
            $top = $bounds->y + (int) ($v * max(0, $bounds->height - $side));
            $all[] = Rect::of($left, $top, $side, $side)->intersect($bounds);
            if ($bounds->width <= $side && $bounds->height <= $side) {
                break;
            }
        }

        return $all;
    }

    private static function halton(int $n, int $base): float
    {
        for ($sum = 0.0, $share = 1 / $base; $n > 0; $n = intdiv($n, $base), $share /= $base) {
            $sum += $share * ($n % $base);
        }

        return $sum;
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
