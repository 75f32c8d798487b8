<?php

declare(strict_types=1);

namespace Cossel\Core\Tests\Motion;

use Cossel\Core\Motion\FrameSource;
use Cossel\Core\Picture\Grey;
use Cossel\Core\Picture\Planes;
use Cossel\Core\Picture\Rect;

/** Frames painted by a formula: the colour of each place, sampled four times a pixel so that edges are soft, or once where there are none. */
final class Painted implements FrameSource
{
    /** @var array<int, Planes> frames painted whole, by number; the last only */
    private array $whole = [];

    /** @param \Closure(int, float, float): array{float, float, float} $colour R'G'B' of a place, in pixels, on a frame */
    public function __construct(private readonly \Closure $colour, private readonly int $width = 240, private readonly int $height = 160, private readonly bool $soft = true) {}

    public function frame(): Rect
    {
        return Rect::of(0, 0, $this->width, $this->height);
    }

    public function luma(int $frame, Rect $rect): Grey
    {
        $planes = $this->colour($frame, $rect);

        return new Grey($rect, array_map(static fn(float $r, float $g, float $b): float => 0.2126 * $r + 0.7152 * $g + 0.0722 * $b, $planes->r, $planes->g, $planes->b));
    }

    /** The same, painted whole at once: for what looks at the same places again and again. */
    public function kept(): self
    {
        $kept = clone $this;
        $kept->whole = [-1 => Planes::filled(Rect::of(0, 0, 1, 1), 0.0, 0.0, 0.0)];

        return $kept;
    }

    public function colour(int $frame, Rect $rect): Planes
    {
        if ($this->whole !== []) {
            $this->whole = isset($this->whole[$frame]) ? $this->whole : [$frame => $this->painted($frame, $this->frame())];

            return $this->whole[$frame]->window($rect);
        }

        return $this->painted($frame, $rect);
    }

    private function painted(int $frame, Rect $rect): Planes
    {
        $planes = Planes::filled($rect, 0.0, 0.0, 0.0);
        $within = $this->soft ? [[0.25, 0.25], [0.75, 0.25], [0.25, 0.75], [0.75, 0.75]] : [[0.5, 0.5]];
        $i = 0;
        for ($y = $rect->y; $y < $rect->bottom(); ++$y) {
            for ($x = $rect->x; $x < $rect->right(); ++$x, ++$i) {
                foreach ($within as [$dx, $dy]) {
                    [$r, $g, $b] = ($this->colour)($frame, $x + $dx, $y + $dy);
                    $planes->r[$i] += $r / count($within);
                    $planes->g[$i] += $g / count($within);
                    $planes->b[$i] += $b / count($within);
                }
            }
        }

        return $planes;
    }
}
